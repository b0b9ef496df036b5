import type { FindingsView } from '@margin-lens/contract';

type Finding = FindingsView['shown'][number];

/** Findings of one cause: the first of them, how many there are, and where. */
export interface Cause {
  first: Finding;
  count: number;
  /** Lines of the file on which they stand, the first few. */
  lines: readonly number[];
  /** The others are like the first one and not the same. */
  isAlike: boolean;
}

/** Different words of one kind of finding in a column that are told one by one. */
const TOLD = 5; // 1 to 20
/** Lines that are named of a cause. */
const LINES = 4; // 1 to 10

/**
 * Findings by what caused them, errors first: those that say the same, or where a column has many that differ in their
 * words alone, all of one kind in it.
 *
 * Shape: counts are those of all findings, also of those that are not shown one by one, where a kind has one cause.
 */
export function causesOf({ shown, countByCode }: FindingsView): Cause[] {
  const byKind = groupedBy(shown, ({ code, file, column }) => [code, file, column].join('|'));
  const groups = [...byKind.values()].flatMap((kind): { findings: Finding[]; isAlike: boolean }[] => {
    const bySame = [...groupedBy(kind, ({ message }) => message).values()];
    return bySame.length > TOLD
      ? [{ findings: kind, isAlike: true }]
      : bySame.map((findings) => ({ findings, isAlike: false }));
  });
  const rankOf = ({ severity }: Finding) => (severity === 'notice' ? 1 : 0);
  return groups
    .map(({ findings, isAlike }): Cause => {
      const [first] = findings as [Finding, ...Finding[]];
      const isOnly = groups.filter((each) => each.findings[0]!.code === first.code).length === 1;
      const all = isOnly ? countByCode.find(({ code }) => code === first.code)?.count : undefined;
      return {
        first,
        count: Math.max(findings.length, all ?? 0),
        lines: findings.flatMap(({ line }) => line ?? []).slice(0, LINES),
        isAlike,
      };
    })
    .sort((a, b) => rankOf(a.first) - rankOf(b.first));
}

function groupedBy<T>(all: readonly T[], keyOf: (each: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const each of all) groups.set(keyOf(each), [...(groups.get(keyOf(each)) ?? []), each]);
  return groups;
}
