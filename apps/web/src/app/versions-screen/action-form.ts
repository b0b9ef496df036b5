import type { OutlookMethod, Phasing, PlanAction, RunRate, SeedSource, SheetRow, ShownUnit } from '@margin-lens/core';
import { typedUnits } from './sheet-model';
import { plainNumber } from '../shared/typed-amount';

export type ActionKind = 'seed' | 'outlook' | 'uplift' | 'phase' | 'series' | 'round' | 'move';

/** What is chosen and typed for an action, as text of the fields. */
export interface ActionForm {
  span: 'rest' | 'selection';
  seedBy: 'take' | RunRate;
  source: string;
  yearsBack: number;
  readFrom: string;
  readTo: string;
  /** What is read leaves out what was posted in adjustment periods, or has it in the month before. */
  leavesAdjustmentsOut: boolean;
  factor: string;
  onlyEmpty: boolean;
  percent: string;
  by: 'percent' | 'amount';
  each: 'each' | 'base';
  compounding: '' | 'flat' | 'compounding';
  phasing: Phasing;
  /** Key of the year whose shape or season is taken; empty for the usual one. */
  baseYear: string;
  total: string;
  growth: string;
  profile: string;
  series: 'step' | 'declining_balance' | 'straight_line';
  start: string;
  step: string;
  yearly: string;
  life: string;
  method: OutlookMethod;
  roundTo: string;
  keepsTotal: boolean;
  move: 'months' | 'value' | 'flip' | 'clear';
  months: string;
  dimension: string;
  fromValue: string;
  toValue: string;
}

export const EMPTY_FORM: ActionForm = {
  span: 'rest',
  seedBy: 'take',
  source: 'actual',
  yearsBack: 1,
  readFrom: '',
  readTo: '',
  leavesAdjustmentsOut: false,
  factor: '100',
  onlyEmpty: false,
  percent: '1.5',
  by: 'percent',
  each: 'each',
  compounding: '',
  phasing: 'base_year',
  baseYear: '',
  total: '',
  growth: '0.5',
  profile: '',
  series: 'step',
  start: '',
  step: '',
  yearly: '5',
  life: '60',
  method: 'holt_winters_additive',
  roundTo: '1000',
  keepsTotal: true,
  move: 'months',
  months: '1',
  dimension: '',
  fromValue: '',
  toValue: '',
};

/** What an action is made from beside its form. */
export interface ActionGround {
  rows: readonly SheetRow[];
  unit: ShownUnit;
  /** Months of the selection that are the version's own. */
  ownMonths: number;
  /** What a seed reads, or why it cannot; neither while it is being read. */
  seed: { source?: SeedSource; problem?: string };
  /** Figures of the chosen forecast, or why there are none; undefined while the history is being read. */
  outlook: readonly number[] | string | undefined;
}

/** The action that a form describes, or what is still wrong with it. */
export function actionOfForm(
  kind: ActionKind,
  form: ActionForm,
  { rows, unit, ownMonths, seed, outlook }: ActionGround,
): PlanAction | string {
  const [row] = rows;
  if (!row) return 'Select rows and months in the sheet.';
  const { shownUnit, whole } = typedUnits(row, unit);
  const number = (text: string) => Number(plainNumber(text) ?? NaN);
  const bad = (text: string, what: string) =>
    text.trim() === '' || !Number.isFinite(number(text)) ? `${what} is not a number.` : undefined;
  switch (kind) {
    case 'seed': {
      const { source, problem } = seed;
      if (!source) return problem ?? 'Reading what it is seeded from…';
      const wrong = bad(form.factor, 'The factor');
      if (wrong) return wrong;
      const common = { source, factor: number(form.factor) / 100, onlyEmpty: form.onlyEmpty };
      return form.seedBy === 'take' ? { kind: 'seed', ...common } : { kind: 'run_rate', by: form.seedBy, ...common };
    }
    case 'outlook': {
      if (rows.length > 1) return 'A forecast is made for one row. Select one.';
      if (outlook === undefined) return 'Reading the history…';
      return typeof outlook === 'string' ? outlook : { kind: 'write', figures: [...outlook] };
    }
    case 'uplift': {
      const wrong = bad(form.percent, 'The rate');
      if (wrong) return wrong;
      if (form.compounding === '') return '';
      const rate =
        form.by === 'percent'
          ? { percent: number(form.percent) }
          : { percent: 0, amount: Math.round(number(form.percent) * shownUnit) * (row.leaves[0]?.sign ?? 1) };
      return {
        kind: 'uplift',
        uplift: { ...rate, from: form.each, compounding: form.compounding === 'compounding' },
      };
    }
    case 'phase': {
      const wrong =
        (form.total.trim() === '' ? undefined : bad(form.total, 'The total')) ??
        (form.phasing === 'growing' ? bad(form.growth, 'The growth') : undefined);
      if (wrong) return wrong;
      const profile = form.profile
        .split(/[\s;]+/)
        .filter(Boolean)
        .map(number);
      return {
        kind: 'phase',
        phasing: form.phasing,
        growth: number(form.growth),
        profile,
        ...(form.total.trim() !== '' && { total: Math.round(number(form.total) * shownUnit) }),
      };
    }
    case 'series': {
      const wrong =
        bad(form.start, 'The first field') ??
        (form.series === 'straight_line' ? undefined : bad(form.step, 'The second field'));
      if (wrong) return wrong;
      const [start, step] = [
        Math.round(number(form.start) * shownUnit),
        Math.round(number(form.step || '0') * shownUnit),
      ];
      if (form.series === 'step') return { kind: 'series', series: { by: 'step', start, step } };
      if (form.series === 'declining_balance')
        return {
          kind: 'series',
          series: { by: 'declining_balance', balance: start, yearlyPercent: number(form.yearly), repayment: step },
        };
      return {
        kind: 'series',
        series: {
          by: 'straight_line',
          cost: start,
          residue: step,
          lifeMonths: Math.max(1, Math.round(number(form.life))),
        },
      };
    }
    case 'round': {
      const wrong = bad(form.roundTo, 'The step');
      return (
        wrong ?? {
          kind: 'round',
          step: Math.max(1, Math.round(number(form.roundTo) * whole)),
          keepsTotal: form.keepsTotal,
        }
      );
    }
    case 'move': {
      if (form.move === 'flip') return { kind: 'flip' };
      if (form.move === 'clear') return { kind: 'write', figures: Array<number>(ownMonths).fill(0) };
      if (form.move === 'value')
        return form.dimension === ''
          ? 'Choose a dimension.'
          : { kind: 'move_value', dimension: form.dimension, from: form.fromValue, to: form.toValue };
      return bad(form.months, 'The number of months') ?? { kind: 'move_months', by: Math.round(number(form.months)) };
    }
  }
}
