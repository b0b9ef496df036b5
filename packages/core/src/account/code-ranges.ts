/** Codes from one to another, both included; of a single code both are the same. */
export interface CodeRange {
  from: string;
  to: string;
}

const RANGE = /^([^\s,.]+(?:\.[^\s,.]+)*)(?:\.\.([^\s,.]+(?:\.[^\s,.]+)*))?$/;

/**
 * Codes and ranges of codes as people list them, divided by commas.
 *
 * Undefined where the text is no such list, or a range ends before it begins.
 * @example '4000..4199, 4300'
 */
export function codeRanges(text: string): CodeRange[] | undefined {
  const ranges = text.split(',').map((part): CodeRange | undefined => {
    const [, from, to = from] = RANGE.exec(part.trim()) ?? [];
    return from !== undefined && to !== undefined && isUpTo(from, to) ? { from, to } : undefined;
  });
  return ranges.every((range) => range !== undefined) ? ranges : undefined;
}

/** Whether a code lies in a range: of the same length as its ends, so that 40000 does not lie between 4000 and 4199. */
export const isInRange = ({ from, to }: CodeRange, code: string): boolean => isUpTo(from, code) && isUpTo(code, to);

/** Whether two ranges have codes in common. */
export const doOverlap = (a: CodeRange, b: CodeRange): boolean =>
  a.from.length === b.from.length && a.from <= b.to && b.from <= a.to;

const isUpTo = (low: string, high: string): boolean => low.length === high.length && low <= high;
