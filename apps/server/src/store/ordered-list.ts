/** Rows of an ordered query as a list of their ids, with sums along the way, so that any part of it is at hand. */
export interface OrderedList {
  ids: Float64Array;
  /** Debit less credit of all rows before each place; one longer than `ids`. */
  movedBefore: Float64Array;
  debit: number;
  credit: number;
}

export interface ListSlice {
  count: number;
  debit: number;
  credit: number;
  ids: number[];
  /** Debit less credit of the rows before the slice. */
  movedBefore: number;
}

/** Makes a list of rows: id, debit and credit each, in order. */
export function orderedList(rows: Iterable<readonly [id: number, debit: number, credit: number]>): OrderedList {
  let ids = new Float64Array(1024);
  let moved = new Float64Array(1025);
  let count = 0;
  let [debit, credit] = [0, 0];
  for (const row of rows) {
    if (count === ids.length) {
      ids = grown(ids, count * 2);
      moved = grown(moved, count * 2 + 1);
    }
    ids[count] = row[0];
    moved[count + 1] = moved[count]! + row[1] - row[2];
    debit += row[1];
    credit += row[2];
    count++;
  }
  return { ids: ids.slice(0, count), movedBefore: moved.slice(0, count + 1), debit, credit };
}

const grown = (array: Float64Array, length: number): Float64Array<ArrayBuffer> => {
  const larger = new Float64Array(length);
  larger.set(array);
  return larger;
};

/** A part of a list. */
export const sliceOf = ({ ids, movedBefore, debit, credit }: OrderedList, skip: number, take: number): ListSlice => ({
  count: ids.length,
  debit,
  credit,
  ids: [...ids.subarray(skip, skip + take)],
  movedBefore: movedBefore[Math.min(skip, ids.length)]!,
});
