import type { CompiledRows } from '../statement/compiled-row';

/** Places of the accounts that some rows are made of, also through others, in the order of the chart. */
export function accountsRead({ rows }: CompiledRows, from: readonly number[]): number[] {
  const accounts = new Set<number>();
  const seen = new Set<number>();
  const visit = (index: number): void => {
    if (seen.has(index)) return;
    seen.add(index);
    const { rule } = rows[index]!;
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
