import type { Mask } from '../cube/combinations';
import type { BookRows, RowAmounts } from './book-rows';

/** Rows that are kept by combination, so that some of them are gone through without the others. */
export class IndexedRows {
  private readonly rowsOf = new Map<number, number[]>();
  private readonly account: number[] = [];
  private readonly period: number[] = [];
  private readonly opens: boolean[] = [];
  private readonly amounts: Record<keyof RowAmounts, number[]> = { debit: [], credit: [], quantity: [] };

  constructor(rows: BookRows) {
    rows((account, period, isOpening, combination, row, { debit, credit, quantity }) => {
      const at = this.account.push(account) - 1;
      this.period.push(period);
      this.opens.push(isOpening);
      this.amounts.debit.push(debit[row]!);
      this.amounts.credit.push(credit[row]!);
      this.amounts.quantity.push(quantity[row]!);
      const others = this.rowsOf.get(combination);
      if (others) others.push(at);
      else this.rowsOf.set(combination, [at]);
    });
  }

  get size(): number {
    return this.account.length;
  }

  /** The rows of some combinations. */
  of(mask: Mask): BookRows {
    const { amounts } = this;
    return (visit) => {
      for (const combination of mask.all)
        for (const at of this.rowsOf.get(combination) ?? [])
          visit(this.account[at]!, this.period[at]!, this.opens[at]!, combination, at, amounts);
    };
  }
}
