import type { Connection } from '../../store/store';
import Papa from 'papaparse';
import {
  ATTACHMENT_FOLDER,
  BASES,
  describePackage,
  DESCRIPTOR_FILE,
  digitsOf,
  DIMENSION_PREFIX,
  DOCUMENT_FOLDERS,
  FIGURE_COLUMNS,
  FIGURES_FILE,
  formatMinor,
  JOURNAL_COLUMNS,
  JOURNAL_KINDS,
  JOURNALS_FILE,
  localValuesOf,
  naturalOrientation,
  periodKey,
  QUANTITY_DIGITS,
  RESOURCES,
  type WorkspaceSettings,
  type WrittenFile,
} from '@margin-lens/core';
import { attributeList } from '../../store/attributes';
import { attachmentOf } from '../../store/attachments';
import { currentDocuments } from '../../store/documents';
import { keyOfDocument } from '../../store/drafts';
import { currentRows, resourceOf } from '../../store/masters';
import { packageFigures, packageLines } from '../../store/package-rows';
import type { Moment } from '../../store/store';
import { keptEvidence } from '../evidence/kept-evidence';
import { jsonFile, type PackageFile } from './package-file';
import { peopleFiles } from './people-files';

/** Rows written in one piece. */
const ROWS_A_PIECE = 2000;

/** Folder of a kind of document inside a package; others have files of their own. */
const FOLDERS: Record<string, string> = { ...DOCUMENT_FOLDERS, mapping: 'mappings' };

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
    const values = new Map(attributeList(parts).map(({ name, value }) => [name, value]));
    const cells = ['partner', 'flow', ...dimensions].map((name) => values.get(name) ?? '');
    held.set(parts, cells);
    return cells;
  };
}

function* journalRows(db: Connection, dimensions: readonly string[]): Generator<Cell[]> {
  const rows = packageLines(db);
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
      account: row.localAccount || row.account,
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
      document_type: row.documentType,
      due: row.due,
      settles: row.settles,
    };
    const own = localValuesOf(row.localValues);
    yield [
      ...JOURNAL_COLUMNS.map((name) => cells[name]),
      ...values.map((value, at) => own.get(dimensions[at]!) ?? value),
    ];
  }
}

function* figureRows(db: Connection, dimensions: readonly string[]): Generator<Cell[]> {
  const rows = packageFigures(db);
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

/** The files that rows of attachments and evidence name; the same file is written once. */
async function attachedFiles(em: Moment['em']): Promise<PackageFile[]> {
  const rows = await currentRows(em, resourceOf('attachments'));
  const evidence = (await keptEvidence(em)).flatMap(({ files }) => files);
  const digests = new Map([
    ...rows.map((row) => [String(row['file']), String(row['sha256'])] as const),
    ...evidence.map(({ sha256 }) => [`${ATTACHMENT_FOLDER}${sha256}`, sha256] as const),
  ]);
  return [...digests].map(([path, sha256]) => ({
    path,
    text: async function* () {
      yield await attachmentOf(em, sha256);
    },
  }));
}

/** The files of a package, and its descriptor, which is made of them once they are written. */
export interface PackageContent {
  files: PackageFile[];
  describe(written: readonly WrittenFile[]): PackageFile;
}

/**
 * The whole workspace as the files of a ledger package, at one moment.
 * @source docs/formats.md
 */
export async function packageContent({ em, db }: Pick<Moment, 'em' | 'db'>): Promise<PackageContent> {
  const tables: (PackageFile & { rows: number })[] = [];
  for (const resource of RESOURCES) {
    const names = resource.columns.map(({ name }) => name);
    const rows = await currentRows(em, resource);
    const text = () =>
      csv(
        names,
        rows.map((row) => names.map((name) => row[name] ?? '')),
      );
    tables.push({ path: resource.file, rows: rows.length, text });
  }
  const values = (await currentRows(em, resourceOf('dimensions'))).sort((a, b) => a.row_id - b.row_id);
  const dimensions = [...new Set(values.map((row) => String(row['dimension'])))];
  const documents = (await currentDocuments(em)).sort((a, b) => (keyOfDocument(a) < keyOfDocument(b) ? -1 : 1));
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
    ...(await attachedFiles(em)),
    ...(await peopleFiles(em, documents)),
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
