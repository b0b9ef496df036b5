import { issue, type Issue } from '../issue/issue';
import { DIMENSION_PREFIX } from './resources';

export interface Header {
  /** Position of each known column that is there. */
  at: ReadonlyMap<string, number>;
  /** Dimension columns, in file order. */
  dimensions: readonly { dimension: string; at: number }[];
  width: number;
  issues: Issue[];
}

/**
 * Reads a header line: which known column stands where.
 *
 * Missing: a required column that is absent and a known one that stands twice are errors; unknown ones are noticed.
 */
export function readHeader(
  file: string,
  names: readonly string[],
  known: readonly string[],
  required: readonly string[],
  takesDimensions = false,
): Header {
  const at = new Map<string, number>();
  const dimensions: { dimension: string; at: number }[] = [];
  const issues: Issue[] = [];
  const place = { file, line: 1 };
  const seen = new Set<string>();
  names.forEach((raw, index) => {
    const name = raw.trim();
    const isTwice = seen.has(name);
    seen.add(name);
    const isDimension = takesDimensions && name.startsWith(DIMENSION_PREFIX);
    if (isTwice) issues.push(issue('CORE_TABLE_COLUMN_TWICE', { column: name }, place));
    else if (isDimension) dimensions.push({ dimension: name.slice(DIMENSION_PREFIX.length), at: index });
    else if (known.includes(name)) at.set(name, index);
    else issues.push(issue('CORE_TABLE_COLUMN_UNKNOWN', { column: name }, place));
  });
  for (const column of required) {
    if (!at.has(column)) issues.push(issue('CORE_TABLE_COLUMN_MISSING', { column }, place));
  }
  return { at, dimensions, width: names.length, issues };
}
