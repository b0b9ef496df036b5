import type Database from 'better-sqlite3';
import Papa from 'papaparse';
import {
  BASES,
  describePackage,
  DESCRIPTOR_FILE,
  digitsOf,
  DIMENSION_PREFIX,
  FIGURE_COLUMNS,
  FIGURES_FILE,
  formatMinor,
  JOURNAL_COLUMNS,
  JOURNAL_KINDS,
  JOURNALS_FILE,
  naturalOrientation,
  periodKey,
  QUANTITY_DIGITS,
  RESOURCES,
  SEEN_FILE,
  type Nature,
  type WorkspaceSettings,
  type WrittenFile,
} from '@margin-lens/core';
import { currentRows } from '../../store/master-store';
import { jsonFile, type PackageFile } from './package-file';
import { peopleFiles } from './people-files';
import { attributesOf } from '../ledger/postings-store';

/** Rows written in one piece. */
const ROWS_A_PIECE = 2000;

/** Folder of a kind of document inside a package. */
const FOLDERS: Record<string, string> = {
  row_layout: 'layouts',
  column_layout: 'layouts',
  statement: 'statements',
  mapping: 'mappings',
};

type Cell = string | number | null;

/** Texts stand as they are: a package is read by programs, and comes back equal. */
function* csv(columns: readonly string[], rows: Iterable<Cell[]>): Generator<string> {
  const piece = (held: readonly (readonly Cell[])[]) => `${Papa.unparse(held as Cell[][], { newline: '\n' })}\n`;
  yield piece([columns]);
  let held: Cell[][] = [];
  for (const row of rows) {
    held.push(row);
    if (held.length < ROWS_A_PIECE) continue;
    yield piece(held);
    held = [];
  }
  if (held.length > 0) yield piece(held);
}

const plainQuantity = (quantity: number): string =>
  quantity === 0 ? '' : formatMinor(quantity, QUANTITY_DIGITS).replace(/\.?0+$/, '');

interface Carried {
  parts: string;
}

/** Partner, flow, then the dimension values in the order of `dimensions`. */
function carriedBy(dimensions: readonly string[]) {
  const held = new Map<string, string[]>();
  return ({ parts }: Carried): string[] => {
    const known = held.get(parts);
    if (known) return known;
    const values = new Map(attributesOf(parts).map(({ name, value }) => [name, value]));
    const cells = ['partner', 'flow', ...dimensions].map((name) => values.get(name) ?? '');
    held.set(parts, cells);
    return cells;
  };
}

interface LineRow extends Carried {
  entity: string;
  currencyOfBooks: string;
  journal: string;
  kind: number;
  line: number;
  date: string;
  year: number;
  number: number;
  periodKind: string;
  account: string;
  debit: number;
  credit: number;
  currency: string;
  currencyAmount: number | null;
  quantity: number;
  basis: number;
  description: string;
  document: string;
}

function* journalRows(db: Database.Database, dimensions: readonly string[]): Generator<Cell[]> {
  const rows = db
    .prepare(
      `select e.code as entity, e.currency as currencyOfBooks, j.number as journal, j.kind, l.line, l.date,
         p.fiscal_year as year, p.period as number, p.kind as periodKind, a.number as account, l.debit, l.credit,
         l.currency, l.currency_amount as currencyAmount, l.quantity, l.basis, l.description, l.document, c.parts
       from journal_line l
       join journal j on j.id = l.journal and j.until is null
       join entity e on e.id = l.entity and e.until is null
       join fiscal_period p on p.id = l.period and p.until is null
       join account a on a.id = l.account and a.until is null
       join combination c on c.id = l.combination
       order by l.journal, l.line`,
    )
    .iterate() as IterableIterator<LineRow>;
  const carries = carriedBy(dimensions);
  for (const row of rows) {
    const [partner, flow, ...values] = carries(row) as [string, string, ...string[]];
    const digits = digitsOf(row.currencyOfBooks);
    const amount = (minor: number) => (minor === 0 ? '' : formatMinor(minor, digits));
    const cells: Record<(typeof JOURNAL_COLUMNS)[number], Cell> = {
      entity: row.entity,
      journal: row.journal,
      kind: row.kind === 0 ? '' : JOURNAL_KINDS[row.kind]!,
      line: row.line,
      date: row.date,
      period: row.periodKind === 'adjustment' ? periodKey(row.year, row.number) : '',
      account: row.account,
      debit: amount(row.debit),
      credit: amount(row.credit),
      currency: row.currency,
      currency_amount: row.currencyAmount === null ? '' : formatMinor(row.currencyAmount, digitsOf(row.currency)),
      quantity: plainQuantity(row.quantity),
      partner,
      flow,
      basis: row.basis === 0 ? '' : BASES[row.basis]!,
      description: row.description,
      document: row.document,
    };
    yield [...JOURNAL_COLUMNS.map((name) => cells[name]), ...values];
  }
}

interface FigureRow extends Carried {
  version: string;
  entity: string;
  currency: string;
  account: string;
  nature: Nature;
  year: number;
  number: number;
  amount: number;
  quantity: number;
}

function* figureRows(db: Database.Database, dimensions: readonly string[]): Generator<Cell[]> {
  const rows = db
    .prepare(
      `select v.code as version, e.code as entity, e.currency, a.number as account, a.nature, p.fiscal_year as year,
         p.period as number, f.amount, f.quantity, c.parts
       from figure f
       join version v on v.id = f.version and v.until is null
       join entity e on e.id = f.entity and e.until is null
       join fiscal_period p on p.id = f.period and p.until is null
       join account a on a.id = f.account and a.until is null
       join combination c on c.id = f.combination
       where f.until is null order by f.id`,
    )
    .iterate() as IterableIterator<FigureRow>;
  const carries = carriedBy(dimensions);
  for (const row of rows) {
    const natural = naturalOrientation(row.nature) === 'credit' ? -row.amount + 0 : row.amount;
    const amount = formatMinor(natural, digitsOf(row.currency));
    yield [
      row.version,
      row.entity,
      row.account,
      periodKey(row.year, row.number),
      amount,
      plainQuantity(row.quantity),
      ...carries(row),
    ];
  }
}

/** The files of a package, and its descriptor, which is made of them once they are written. */
export interface PackageContent {
  files: PackageFile[];
  describe(written: readonly WrittenFile[]): PackageFile;
}

/**
 * The whole workspace as the files of a ledger package, as it is now.
 *
 * Call inside a read transaction, so that all files show the same revision.
 * @source docs/formats.md
 */
export function packageContent(db: Database.Database): PackageContent {
  const tables = RESOURCES.map((resource): PackageFile & { rows: number } => {
    const names = resource.columns.map(({ name }) => name);
    const rows = currentRows(db, resource);
    return {
      path: resource.file,
      rows: rows.length,
      text: () =>
        csv(
          names,
          rows.map((row) => names.map((name) => row[name] ?? '')),
        ),
    };
  });
  const dimensions = (
    db.prepare('select distinct dimension from dimension_value where until is null order by row_id').all() as {
      dimension: string;
    }[]
  ).map(({ dimension }) => dimension);
  const documents = db.prepare('select kind, id, body from document where until is null order by kind, id').all() as {
    kind: string;
    id: string;
    body: string;
  }[];
  // marks of before they named their finding have it in their id
  const marks = documents
    .filter(({ kind }) => kind === 'seen')
    .map(({ id, body }) => ({ key: id.slice(id.indexOf('|') + 1), ...(JSON.parse(body) as object) }));
  const settings = documents.find(({ kind }) => kind === 'workspace');
  const named = settings ? (JSON.parse(settings.body) as WorkspaceSettings).name : 'Workspace';
  const columns = dimensions.map((dimension) => `${DIMENSION_PREFIX}${dimension}`);
  const journalColumns = [...JOURNAL_COLUMNS, ...columns];
  const figureColumns = [...FIGURE_COLUMNS, ...columns];
  const name = named.toLowerCase().replace(/[^a-z0-9._-]+/g, '-');
  const files = [
    ...(settings ? [jsonFile('workspace.json', JSON.parse(settings.body))] : []),
    ...tables.filter(({ rows }) => rows > 0),
    { path: JOURNALS_FILE, text: () => csv(journalColumns, journalRows(db, dimensions)) },
    { path: FIGURES_FILE, text: () => csv(figureColumns, figureRows(db, dimensions)) },
    ...(marks.length > 0 ? [jsonFile(SEEN_FILE, marks)] : []),
    ...peopleFiles(db, documents),
    ...documents.flatMap(({ kind, id, body }) =>
      FOLDERS[kind] ? [jsonFile(`${FOLDERS[kind]}/${id}.json`, JSON.parse(body))] : [],
    ),
  ];
  const title = { name, title: named };
  return {
    files,
    describe: (written) => jsonFile(DESCRIPTOR_FILE, describePackage(title, journalColumns, figureColumns, written)),
  };
}
