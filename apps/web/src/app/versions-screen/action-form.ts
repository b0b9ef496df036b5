import type {
  LoanPart,
  OutlookMethod,
  Phasing,
  PlanAction,
  RunRate,
  SeedSource,
  Series,
  SheetRow,
  ShownUnit,
  PlanTemplate,
} from '@margin-lens/core';
import { typedNumber, typedNumbers } from '../shared/typed-amount';
import { seriesOfForm } from './series-of-form';
import { typedUnits } from './sheet-model';

export type ActionKind = PlanTemplate['steps'][number]['action'] | 'curve';

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
  series: Series['by'];
  loanPart: LoanPart;
  start: string;
  step: string;
  yearly: string;
  life: string;
  /** Of a loan: how many payments are left. */
  payments: string;
  /** Months until a thing begins to be written off. */
  begins: string;
  joiners: string;
  leavers: string;
  raise: string;
  raiseAfter: string;
  /** What is forecast: the rows that are selected, or all of income and expense. */
  forecasts: 'selection' | 'all';
  method: OutlookMethod | 'best';
  roundTo: string;
  keepsTotal: boolean;
  move: 'months' | 'value' | 'flip' | 'clear';
  months: string;
  dimension: string;
  fromValue: string;
  toValue: string;
  /** Account that takes what the balance sheet is out by; empty for the largest of cash. */
  balancing: string;
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
  loanPart: 'interest',
  start: '',
  step: '',
  yearly: '5',
  life: '60',
  payments: '60',
  begins: '0',
  joiners: '',
  leavers: '',
  raise: '0',
  raiseAfter: '0',
  forecasts: 'selection',
  method: 'best',
  roundTo: '1000',
  keepsTotal: true,
  move: 'months',
  months: '1',
  dimension: '',
  fromValue: '',
  toValue: '',
  balancing: '',
};

/** What an action is made from beside its form. */
export interface ActionGround {
  rows: readonly SheetRow[];
  unit: ShownUnit;
  /** Months of the selection that are the version's own. */
  ownMonths: number;
  /** What a seed reads, or why it cannot; neither while it is being read. */
  seed: { source?: SeedSource; problem?: string };
  /** Figures of the rows' forecasts, or why there are none; undefined while they are being worked out. */
  outlook: ReadonlyMap<string, readonly number[]> | string | undefined;
  /** Figures of the curve as it is drawn; undefined where none is. */
  curve: readonly number[] | undefined;
  /** Account that is to balance; undefined where the chart has none. */
  balancing: string | undefined;
}

/** What is said while something is read, and nothing is wrong yet. */
const READING = { seed: 'Reading what it is seeded from…', outlook: 'Trying the methods on the history…' } as const;
export const isReading = (words: string): boolean => Object.values<string>(READING).includes(words);

/** The action that a form describes, or what is still wrong with it. */
export function actionOfForm(
  kind: ActionKind,
  form: ActionForm,
  { rows, unit, ownMonths, seed, outlook, curve, balancing }: ActionGround,
): PlanAction | string {
  if (kind === 'balance')
    return balancing === undefined
      ? 'The chart of accounts has no balance sheet.'
      : { kind: 'balance', account: balancing };
  const [row] = rows;
  if (!row) return 'Select rows and months in the sheet.';
  const { shownUnit, whole } = typedUnits(row, unit);
  const number = typedNumber;
  const bad = (text: string, what: string) => (!Number.isFinite(number(text)) ? `${what} is not a number.` : undefined);
  switch (kind) {
    case 'seed': {
      const { source, problem } = seed;
      if (!source) return problem ?? READING.seed;
      const wrong = bad(form.factor, 'The factor');
      if (wrong) return wrong;
      const common = { source, factor: number(form.factor) / 100, onlyEmpty: form.onlyEmpty };
      return form.seedBy === 'take' ? { kind: 'seed', ...common } : { kind: 'run_rate', by: form.seedBy, ...common };
    }
    case 'outlook': {
      if (outlook === undefined) return READING.outlook;
      return typeof outlook === 'string' ? outlook : { kind: 'write', figures: outlook };
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
      const profile = typedNumbers(form.profile);
      return {
        kind: 'phase',
        phasing: form.phasing,
        growth: number(form.growth),
        profile,
        ...(form.total.trim() !== '' && { total: Math.round(number(form.total) * shownUnit) }),
      };
    }
    case 'curve':
      if (rows.length > 1) return 'A curve is drawn of one row. Select one.';
      return curve ? { kind: 'write', figures: new Map([[row.id, curve]]) } : 'Drag a month of the curve, or type one.';
    case 'series': {
      const series = seriesOfForm(form, shownUnit);
      return typeof series === 'string' ? series : { kind: 'series', series };
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
      if (form.move === 'clear') {
        const nothing = Array<number>(ownMonths).fill(0);
        return { kind: 'write', figures: new Map(rows.map(({ id }) => [id, nothing])) };
      }
      if (form.move === 'value')
        return form.dimension === ''
          ? 'Choose a dimension.'
          : { kind: 'move_value', dimension: form.dimension, from: form.fromValue, to: form.toValue };
      return bad(form.months, 'The number of months') ?? { kind: 'move_months', by: Math.round(number(form.months)) };
    }
  }
}
