import { formatFigure, shownDecimals, type FigureLook, type ShownUnit } from '../figure/format-figure';
import type { Unit } from '../figure/figure';
import type { PageBlock, PageColumn, PageRow } from './page';

/** Balances held against evidence. Units: minor units of `unit`, on the natural side of each account. */
export interface BalancesOnPaper {
  unit: Unit;
  rows: readonly {
    id: string;
    label: string;
    balance: number;
    /** Null where there is none. */
    evidence: number | null;
    difference: number | null;
    /** How it stands, with whom and why, in words; empty where it is settled and there is nothing to say. */
    says: string;
  }[];
}

const HEADS = ['Balance', 'Evidence', 'Difference'];
const LOOK: FigureLook = { zero: 'dash' };

/** Balances as a table, and below it what is to be said of those that are open, differ or may. */
export function balanceBlocks({ unit, rows }: BalancesOnPaper, shown: ShownUnit): PageBlock[] {
  if (rows.length === 0) return [{ kind: 'paragraph', runs: [{ text: 'No balance is open.' }] }];
  const columns = HEADS.map((label, at): PageColumn => ({
    ...{ id: `evidence_${at}`, notation: at === 0 ? 'actual' : 'none', label, block: 'span', blockLabel: '' },
    ...{ note: '', dates: '', isDated: true, flags: [] },
  }));
  const told = rows.filter(({ says }) => says !== '');
  return [
    { kind: 'table', table: { labelHead: '', columns, look: LOOK, rows: rows.map(rowOf(unit, shown)) } },
    ...(told.length > 0 ? [{ kind: 'heading' as const, text: 'What is to be said of them' }] : []),
    ...told.map(({ label, says }): PageBlock => ({
      kind: 'paragraph',
      runs: [{ text: `${label}: `, isStrong: true }, { text: says }],
    })),
  ];
}

const rowOf =
  (unit: Unit, shown: ShownUnit) =>
  ({ id, label, balance, evidence, difference }: BalancesOnPaper['rows'][number]): PageRow => ({
    ...{ id, label, note: '', style: 'detail', kind: 'figures', depth: 0, startsPage: false },
    cells: [balance, evidence, difference].map((amount, at) => ({
      ...{ figure: { amount, unit }, unit, note: '', address: `${id}~evidence_${at}` },
      text: amount === null ? '' : formatFigure({ amount, unit }, shown, LOOK),
      decimals: shownDecimals(unit, shown, LOOK),
    })),
  });
