import type { Account } from '../account/nature';
import type { Unit } from '../figure/figure';
import type { RowLayout } from '../layout/row-layout';
import { compileRows } from './compile-rows';
import type { CompiledRows, Member } from './compiled-row';
import { coverageOf, type Coverage } from './coverage';
import type { RowSurroundings } from './surroundings';

/** A row layout against a chart of accounts: its rows, how it places the accounts, and what its rows demand of postings. */
export interface CompiledLayout {
  rows: CompiledRows;
  coverage: Coverage;
  /** Every demand of a row on dimension values, once. */
  conditions: readonly Member['where'][];
}

type Content = Pick<RowSurroundings, 'cashFlow' | 'dimensions'>;

interface Kept extends Content {
  layouts: Map<string, CompiledLayout>;
}

/** Layouts that are kept compiled for one chart of accounts: those of all statements, and some that are being edited. */
const KEPT_LAYOUTS = 100; // 10 to 1000
/** Texts of layouts that are told apart; beyond it they are forgotten, and told apart anew. */
const KEPT_TEXTS = 500; // 50 to 5000

const keptOf = new WeakMap<readonly Account[], Kept>();
const numbers = new Map<string, number>();
const numberOf = new WeakMap<object, number>();
let lastNumber = 0;

/**
 * Compiles a row layout, or gives what was compiled of the very same content before.
 *
 * Shape: as of `compileRows`; the chart, cash-flow rules and dimensions are told apart by identity, since they are read
 * once for each state of the master data; layouts by what they say.
 */
export function compileLayout(
  layout: RowLayout,
  accounts: readonly Account[],
  currency: Unit & { kind: 'currency' },
  surroundings: RowSurroundings,
): CompiledLayout {
  const { rowLayouts, expanded, cashFlow, dimensions } = surroundings;
  let kept = keptOf.get(accounts);
  if (kept?.cashFlow !== cashFlow || kept.dimensions !== dimensions)
    keptOf.set(accounts, (kept = { cashFlow, dimensions, layouts: new Map() }));
  const key = [currency.code, currency.digits, JSON.stringify(expanded), ...[layout, ...rowLayouts].map(contentNumber)];
  const known = kept.layouts.get(key.join('|'));
  if (known) return known;
  const rows = compileRows(layout, accounts, currency, surroundings);
  const coverage = coverageOf(layout, rows, accounts, surroundings);
  const compiled = { rows, coverage, conditions: conditionsOf(rows) };
  kept.layouts.set(key.join('|'), compiled);
  if (kept.layouts.size > KEPT_LAYOUTS) kept.layouts.delete(kept.layouts.keys().next().value!);
  return compiled;
}

/** A number that two layouts share exactly when they say the same. */
function contentNumber(layout: RowLayout): number {
  const known = numberOf.get(layout);
  if (known !== undefined) return known;
  const text = JSON.stringify(layout);
  if (numbers.size >= KEPT_TEXTS) numbers.clear();
  const number = numbers.get(text) ?? ++lastNumber;
  numbers.set(text, number);
  numberOf.set(layout, number);
  return number;
}

export function conditionsOf({ rows }: Pick<CompiledRows, 'rows'>): Member['where'][] {
  const all = rows.flatMap(({ rule }) => (rule.from === 'accounts' ? rule.members.map(({ where }) => where) : []));
  return [...new Map(all.map((where) => [JSON.stringify(where), where])).values()];
}
