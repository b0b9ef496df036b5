import { sharesOn } from '../account/share-of-day';
import { codeRanges, doOverlap, type CodeRange } from '../account/code-ranges';
import { isLinkPattern, LINK_PLACES } from './source-address';
import { issue, type Issue } from '../issue/issue';
import type { OwnershipShare } from './check-ownership';

/** A row of one of the tables that group figures stand on, text by column. */
export type GroupRow = Readonly<Record<string, string>>;

/** Tables by their names; those that are left out are empty. */
export type GroupTables = Readonly<Record<string, readonly GroupRow[]>>;

/** Tables whose rows are about a holding. */
const ABOUT_HOLDINGS = ['acquisitions', 'disposals', 'impairments'];
/** Tables of deals between two entities, with the columns that name them. */
const DEALS: readonly [table: string, one: string, other: string][] = [
  ['stock_held', 'holder', 'seller'],
  ['asset_transfers', 'seller', 'buyer'],
];

/** Percent by which shares may differ that are written with few decimals. */
const TOLERANCE = 0.005;

/** Findings that only the tables of a group together can show. */
export function checkGroupTables(tables: GroupTables, shares: readonly OwnershipShare[]): Issue[] {
  return [
    ...ABOUT_HOLDINGS.flatMap((table) => unknownHoldings(table, tables[table] ?? [], shares)),
    ...(tables['disposals'] ?? []).flatMap((row) => problemsOfDisposal(row, shares)),
    ...DEALS.flatMap(([table, one, other]) =>
      (tables[table] ?? [])
        .filter((row) => row[one] === row[other])
        .map((row) => issue('CORE_DEAL_WITH_ITSELF', { entity: row[one]! }, { file: `${table}.csv`, column: other })),
    ),
    ...overlapsOfMap(tables['account_map'] ?? []),
    ...linksWithoutAddress(tables['source_links'] ?? []),
    ...filesElsewhere(tables['attachments'] ?? []),
  ];
}

const pairOf = ({ investor, investee }: { investor?: string; investee?: string }) => `${investor}|${investee}`;

function unknownHoldings(table: string, rows: readonly GroupRow[], shares: readonly OwnershipShare[]): Issue[] {
  const held = new Set(shares.map(pairOf));
  const unknown = new Map(rows.filter((row) => !held.has(pairOf(row))).map((row) => [pairOf(row), row]));
  return [...unknown.values()].map((row) =>
    issue(
      'CORE_HOLDING_UNKNOWN',
      { investor: row['investor']!, investee: row['investee']! },
      { file: `${table}.csv`, column: 'investee' },
    ),
  );
}

/** What is sold was held the day before, and ownership says what is left: a disposal itself changes no percent. */
function problemsOfDisposal(row: GroupRow, shares: readonly OwnershipShare[]): Issue[] {
  const date = row['date']!;
  const ofPair = shares.filter((share) => pairOf(share) === pairOf(row));
  if (ofPair.length === 0) return []; // said already
  const earlier = ofPair.filter(({ from }) => from < date);
  const held = sharesOn(earlier, date)[0]?.percent ?? 0;
  const left = sharesOn(ofPair, date)[0]?.percent ?? 0;
  const sold = Number(row['percent_sold']);
  const params = { investor: row['investor']!, investee: row['investee']!, date, sold, held, left };
  const place = { file: 'disposals.csv', column: 'percent_sold' };
  if (sold > held + TOLERANCE) return [issue('CORE_DISPOSAL_OVER', params, place)];
  return Math.abs(held - sold - left) > TOLERANCE ? [issue('CORE_DISPOSAL_UNLIKE_OWNERSHIP', params, place)] : [];
}

function overlapsOfMap(rows: readonly GroupRow[]): Issue[] {
  const place = { file: 'account_map.csv', column: 'from' };
  const found: Issue[] = [];
  const held = new Map<string, { range: CodeRange; text: string }[]>();
  for (const { entity = '', from: text = '', valid_from: since = '' } of rows) {
    // one that begins later takes the place of others
    const key = `${entity}|${since}`;
    const before = held.get(key) ?? [];
    held.set(key, before);
    const ranges = codeRanges(text);
    if (!ranges) found.push(issue('CORE_CODES_UNREADABLE', { text }, place));
    for (const range of ranges ?? []) {
      const other = before.find((each) => isAlone(each.range) === isAlone(range) && doOverlap(each.range, range));
      if (other) found.push(issue('CORE_MAP_OVERLAP', { entity, from: text, other: other.text }, place));
      before.push({ range, text });
    }
  }
  return found;
}

/** A code that is named alone is an exception to a range. */
const isAlone = ({ from, to }: CodeRange): boolean => from === to;

const PLACES_IN_WORDS = LINK_PLACES.map((place) => `{${place}}`).join(', ');

/** A link opens another program in the browser: nothing but an address of the web is one. */
const linksWithoutAddress = (rows: readonly GroupRow[]): Issue[] =>
  rows
    .filter(({ pattern = '' }) => !isLinkPattern(pattern))
    .map(({ pattern = '' }) =>
      issue('CORE_LINK_PATTERN', { pattern, places: PLACES_IN_WORDS }, { file: 'source_links.csv', column: 'pattern' }),
    );

/** Files are written where their rows say, so that none may lead out of their folder. */
const filesElsewhere = (rows: readonly GroupRow[]): Issue[] =>
  rows
    .filter(({ file = '' }) => !/^attachments\/[^/\\]+$/.test(file) || file.endsWith('/..') || file.endsWith('/.'))
    .map(({ file = '' }) => issue('CORE_ATTACHMENT_PATH', { file }, { file: 'attachments.csv', column: 'file' }));
