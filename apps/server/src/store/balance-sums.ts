/** Room for each part of the packed key; ids beyond it fall back to a text key. */
const RADIX = { entity: 4096, account: 65_536, period: 4096, kinds: 16 } as const;
const ENTRY_KINDS = 3;

/** Numbers of a sum: entity, period, account, combination, basis, entry kind; debit, credit, quantity. */
const KEY = 6;

/** Adds postings up by balance in memory. Units: minor units, quantity in 1/10,000. */
export class BalanceSums {
  private readonly sums = new Map<number | string, number[]>();

  get size(): number {
    return this.sums.size;
  }

  add(
    entity: number,
    period: number,
    account: number,
    combination: number,
    basis: number,
    entryKind: number,
    debit: number,
    credit: number,
    quantity: number,
  ): void {
    const kinds = basis * ENTRY_KINDS + entryKind;
    const packed =
      (((combination * RADIX.entity + entity) * RADIX.account + account) * RADIX.period + period) * RADIX.kinds + kinds;
    const fits = entity < RADIX.entity && account < RADIX.account && period < RADIX.period;
    const place = fits && packed <= Number.MAX_SAFE_INTEGER ? packed : `${packed}.${entity}.${account}.${period}`;
    const sum = this.sums.get(place);
    if (sum) {
      sum[KEY]! += debit;
      sum[KEY + 1]! += credit;
      sum[KEY + 2]! += quantity;
    } else this.sums.set(place, [entity, period, account, combination, basis, entryKind, debit, credit, quantity]);
  }

  /** The sums in the order of their keys, their numbers one after the other; there are none afterwards. */
  drain(): Float64Array {
    const sums = [...this.sums.values()].sort(compareKeys);
    this.sums.clear();
    return new Float64Array(sums.flat());
  }
}

function compareKeys(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < KEY; i++) if (a[i] !== b[i]) return a[i]! - b[i]!;
  return 0;
}
