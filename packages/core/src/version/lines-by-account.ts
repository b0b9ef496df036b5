import type { FigureLine, FigureLines } from './planning-sheet';

const known = new WeakMap<FigureLines, ReadonlyMap<string, readonly FigureLine[]>>();

/** Lines by their account, found once for the same lines, since every row of a sheet asks for its own. */
export function linesByAccount(lines: FigureLines): ReadonlyMap<string, readonly FigureLine[]> {
  const found = known.get(lines);
  if (found) return found;
  const groups = new Map<string, FigureLine[]>();
  for (const line of lines.values()) {
    const group = groups.get(line.account);
    if (group) group.push(line);
    else groups.set(line.account, [line]);
  }
  known.set(lines, groups);
  return groups;
}
