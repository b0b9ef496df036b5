import type { Account } from '../account/nature';
import { readItem } from '../layout/item-measure';
import type { RowLayout } from '../layout/row-layout';
import type { Scope } from '../scope/scope';
import { compileLayout } from '../statement/compile-layout';
import type { CompiledRows } from '../statement/compiled-row';
import { ALONE } from '../statement/surroundings';

/**
 * Numbers of the accounts that some rows of a layout are made of.
 * @param rowLayouts all of them, for formulas that name rows of another
 * @param of what is broken down; rows that are not there are passed over
 */
export function numbersRead(
  layout: RowLayout,
  rowLayouts: readonly RowLayout[],
  accounts: readonly Account[],
  currency: Scope['currency'],
  of: readonly string[],
): Set<string> {
  const { rows } = compileLayout(layout, accounts, currency, { ...ALONE, rowLayouts });
  const from = of.flatMap((item) => rows.byId.get(readItem(item).row) ?? []);
  return new Set(accountsRead(rows, from).map((at) => accounts[at]!.number));
}

/** Places of the accounts that some rows are made of, also through others, or flexed by, in the order of the chart. */
export function accountsRead({ rows }: CompiledRows, from: readonly number[]): number[] {
  const accounts = new Set<number>();
  const seen = new Set<number>();
  const visit = (index: number): void => {
    if (seen.has(index)) return;
    seen.add(index);
    const { rule, variesWith, usage } = rows[index]!;
    for (const driver of [variesWith, usage]) if (driver !== undefined) visit(driver);
    switch (rule.from) {
      case 'accounts':
        for (const { account } of rule.members) accounts.add(account);
        return;
      case 'rows':
        return rule.terms.forEach(({ row }) => visit(row));
      case 'ratio':
        return [rule.numerator, rule.denominator].forEach(visit);
      case 'formula':
        return [...rule.rows.values()].forEach(visit);
      case 'nothing':
        return;
    }
  };
  from.forEach(visit);
  return [...accounts].sort((a, b) => a - b);
}
