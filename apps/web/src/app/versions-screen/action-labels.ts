import type { ActionKind } from './action-form';

/** Actions on the figures of a plan, in the order of the toolbar. */
export const ACTION_LABELS: Record<ActionKind, string> = {
  seed: 'Seed',
  outlook: 'Forecast',
  uplift: 'Uplift',
  phase: 'Phase',
  curve: 'Draw',
  series: 'Series',
  round: 'Round',
  move: 'Move',
  balance: 'Balance',
};

/** What else people call them, to find them by. */
export const ACTION_WORDS: Record<ActionKind, string> = {
  seed: 'start from last year copy take over run rate base',
  outlook: 'trend extrapolate predict holt-winters',
  uplift: 'increase raise percent growth inflation',
  phase: 'spread total over months seasonality shape distribute',
  curve: 'drag chart season shape',
  series: 'schedule loan depreciation payroll headcount steps',
  round: 'whole thousands',
  move: 'shift months reclassify clear turn sign',
  balance: 'balance sheet cash plug difference',
};
