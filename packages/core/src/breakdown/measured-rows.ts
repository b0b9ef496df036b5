import { accountUnit, isFlow, type Account } from '../account/nature';
import { counting, countedAccount, type Counted } from '../books/counted';
import { conditionKey } from '../cube/dimension-condition';
import { NUMBER, type Unit } from '../figure/figure';
import type { FormulaNode } from '../formula/formula';
import { itemOf, itemWords, readItem, type ItemMeasure } from '../layout/item-measure';
import type { CompiledRow, CompiledRows, Member } from '../statement/compiled-row';

/** Digits behind the point of what a unit comes to. */
const DIGITS_PER_UNIT = 2;

/** Rows of a layout, with rows behind them for the measures of these that are asked for. @param of what is broken down */
export function withMeasures(
  compiled: CompiledRows,
  of: readonly string[],
  accounts: readonly Account[],
): CompiledRows {
  const rows = [...compiled.rows];
  const byId = new Map(compiled.byId);
  const add = (row: CompiledRow) => {
    byId.set(row.id, row.index);
    rows.push(row);
  };
  const addCount = (base: CompiledRow, counted: Counted): number => {
    const id = itemOf(base.id, counted);
    if (!byId.has(id)) add(countRow(base, counted, rows, accounts));
    return byId.get(id)!;
  };
  for (const item of of) {
    const { row, measure } = readItem(item);
    const at = compiled.byId.get(row);
    if (at === undefined || measure === undefined || byId.has(item)) continue;
    const base = rows[at]!;
    if (measure !== 'per_unit') addCount(base, measure);
    else add(perUnitRow(base, addCount(base, 'quantity'), rows));
  }
  return { ...compiled, rows, byId, misplacedFrom: rows.length };
}

/** What stands behind the other rows for a measure of one of them. */
const measured = (base: CompiledRow, measure: ItemMeasure, index: number): CompiledRow => ({
  ...base,
  ...{ index, id: itemOf(base.id, measure), label: itemWords(base.label, measure), parent: undefined },
  ...{ shownSign: 1, direction: 'neutral' },
  ...{ variesWith: undefined, usage: undefined, decimals: undefined },
});

/** What is counted of the accounts that a row adds up, each of them once; of a row that is no sum there is nothing. */
function countRow(
  base: CompiledRow,
  counted: Counted,
  rows: readonly CompiledRow[],
  accounts: readonly Account[],
): CompiledRow {
  const members = countedMembers(rows, base.index, counted);
  const held = members.map(({ account }) => countedAccount(accounts[account]!, counted));
  const unit: Unit = held[0] ? accountUnit(held[0], base.unit) : { kind: 'count', name: '', digits: 0 };
  const reads = counted === 'lines' ? ('flow' as const) : undefined;
  return {
    ...measured(base, counted, rows.length),
    ...{ kind: 'statistic', orientation: 'debit', additive: true, flow: held.every(isFlow), unit },
    rule: members.length === 0 ? { from: 'nothing' } : { from: 'accounts', members, reads },
  };
}

function perUnitRow(base: CompiledRow, quantity: number, rows: readonly CompiledRow[]): CompiledRow {
  const read = (index: number): FormulaNode => ({
    ...{ op: 'ref', id: rows[index]!.id, layout: undefined, from: 0, to: 0 },
  });
  const [of, by] = [read(base.index), read(quantity)];
  const parts = [base.index, quantity];
  const text = parts.map((index) => `{${rows[index]!.id}}`).join(' / ');
  const isCounted = rows[quantity]!.rule.from !== 'nothing';
  return {
    ...measured(base, 'per_unit', rows.length),
    ...{ kind: 'formula', style: 'ratio', orientation: 'credit', additive: false, flow: true },
    // a plain number: in full, whatever money is shown in
    ...{ unit: NUMBER, decimals: DIGITS_PER_UNIT },
    ...(base.unit.kind === 'currency' && { label: `${itemWords(base.label, 'per_unit')} (${base.unit.code})` }),
    rule: isCounted
      ? {
          from: 'formula',
          tree: { op: 'divide', left: of, right: by },
          text,
          rows: new Map(parts.map((index) => [rows[index]!.id, index])),
        }
      : { from: 'nothing' },
  };
}

/** The accounts that a row adds up, also through other rows, each with the same demands once. */
function countedMembers(rows: readonly CompiledRow[], index: number, counted: Counted): Member[] {
  const found = new Map<string, Member>();
  const visit = (at: number): void => {
    const { rule } = rows[at]!;
    if (rule.from === 'rows') rule.terms.forEach(({ row }) => visit(row));
    if (rule.from !== 'accounts') return;
    for (const { account, where } of rule.members)
      found.set([account, ...where.map(conditionKey).sort()].join('|'), { account, weight: 1, where });
  };
  visit(index);
  const wheres = new Map<Member['where'], Member['where']>();
  const whereOf = (where: Member['where']) => {
    const asked = wheres.get(where) ?? [...where, counting(counted)];
    wheres.set(where, asked);
    return asked;
  };
  return [...found.values()].map((member) => ({ ...member, where: whereOf(member.where) }));
}
