import { currentDocuments, storeDocument } from '../../store/documents';
import type { PackageRow } from '../../store/masters';
import type { Write } from '../../store/store';
import { rowsFollow } from '../../base/words';

interface HeadingPair {
  heading: string;
  subHeading: string;
}

const pairOf = (row: PackageRow): HeadingPair => ({
  heading: String(row['category'] ?? ''),
  subHeading: String(row['subcategory'] ?? ''),
});

/** Names that are gone and whose accounts have all gone to one name that is new: these were renamed. */
function renamed(
  moves: readonly (readonly [string, string])[],
  before: ReadonlySet<string>,
  after: ReadonlySet<string>,
): Map<string, string> {
  const targets = new Map<string, Set<string>>();
  for (const [from, to] of moves) targets.set(from, (targets.get(from) ?? new Set()).add(to));
  const found = new Map<string, string>();
  for (const [from, to] of targets) {
    const [only] = [...to];
    if (to.size === 1 && from !== '' && only && !after.has(from) && !before.has(only)) found.set(from, only);
  }
  return found;
}

interface Selector {
  by: string;
  heading?: string;
  subHeading?: string;
}

/**
 * Lets row layouts follow headings that were renamed in the chart of accounts, under the same revision.
 *
 * `before` and `after` are the accounts as they were and as they are. Returns what was done, and which headings that
 * layouts name have no account any more, in words.
 */
export async function renameHeadings(
  write: Write,
  before: readonly PackageRow[],
  after: readonly PackageRow[],
): Promise<string[]> {
  const now = new Map(after.map((row) => [row.id, pairOf(row)]));
  const moved = before.flatMap((row) => {
    const to = now.get(row.id);
    return to ? [[pairOf(row), to] as const] : [];
  });
  const headingsOf = (rows: readonly PackageRow[]) => new Set(rows.map((row) => pairOf(row).heading));
  const wholeOf = ({ heading, subHeading }: HeadingPair) => JSON.stringify([heading, subHeading]);
  const pairsOf = (rows: readonly PackageRow[]) => new Set(rows.map((row) => wholeOf(pairOf(row))));
  const headings = renamed(
    moved.map(([a, b]) => [a.heading, b.heading]),
    headingsOf(before),
    headingsOf(after),
  );
  const pairs = renamed(
    moved.map(([a, b]) => [wholeOf(a), wholeOf(b)]),
    pairsOf(before),
    pairsOf(after),
  );
  if (headings.size === 0 && pairs.size === 0) return [];
  const notes = new Set<string>();
  for (const { id, body } of await currentDocuments(write.em, ['row_layout'])) {
    const layout = JSON.parse(body, (_key, value: unknown) => {
      const selector = value as Selector | null;
      if (selector?.by === 'heading' && headings.has(selector.heading!))
        return { ...selector, heading: headings.get(selector.heading!) };
      if (selector?.by === 'sub_heading') {
        const to = pairs.get(wholeOf({ heading: selector.heading!, subHeading: selector.subHeading! }));
        const [heading, subHeading] = to ? (JSON.parse(to) as [string, string]) : [];
        if (to) return { ...selector, heading, subHeading };
      }
      return value;
    }) as { name: string };
    if (await storeDocument(write, 'row_layout', id, layout)) notes.add(rowsFollow(layout.name));
  }
  return [...notes];
}
