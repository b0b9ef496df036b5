import { open } from 'node:fs/promises';
import {
  delimiterOf,
  issue,
  proposeMapping,
  PURPOSES,
  targetsOf,
  plainName,
  type ForeignCell,
  type ForeignQuestion,
  type Issue,
  type KnownCodes,
  type Mapping,
  type Purpose,
} from '@margin-lens/core';
import { checkHeader } from './check-header';
import { isWorkbook, readForeign, type ForeignForm } from './read-foreign';
import { AUDIT_FILE_PARTS, isAuditFile } from './read-audit-file';
import { visibleSheets } from './read-workbook';
import { encodingOf } from './text-encoding';

/** Rows shown, and rows looked at to tell numbers and dates. */
const ROWS_SHOWN = 20;
const ROWS_LOOKED_AT = 5000;
/** Lines among which the header is looked for. */
const HEADER_WITHIN = 15;
/** Bytes looked at to tell the delimiter. */
const HEAD = 65_536;

export interface ForeignInspection {
  isWorkbook: boolean;
  sheets: string[];
  header: string[];
  sample: { line: number; cells: string[] }[];
  mapping: Mapping;
  /** A kept mapping was recognised by the header. */
  isKept: boolean;
  questions: ForeignQuestion[];
  /** The encoding is a guess; a text of the file that shows it. */
  encodingText: { line: number; text: string } | undefined;
  findings: Issue[];
}

export interface InspectRequest {
  location: string;
  fileName: string;
  known: KnownCodes;
  kept: readonly Mapping[];
  /** What a person has already said otherwise: the sheet, the purpose, the encoding. */
  said?: Partial<Pick<Mapping, 'purpose' | 'encoding' | 'delimiter' | 'sheet' | 'headerLine'>>;
}

interface Line {
  cells: ForeignCell[];
  line: number;
}

/** What the parts of an audit file bring. */
const PART_PURPOSES: Record<string, Purpose> = {
  Journals: 'journals',
  'Trial balance': 'trial_balance',
  Accounts: 'accounts',
};

class Enough extends Error {}

async function firstLines(location: string, file: string, form: ForeignForm, findings: Issue[]): Promise<Line[]> {
  const lines: Line[] = [];
  const take = (cells: ForeignCell[], line: number) => {
    lines.push({ cells, line });
    if (lines.length >= ROWS_LOOKED_AT) throw new Enough();
  };
  const rows = { header: (names: string[], line: number) => take(names, line), row: take, pause: () => undefined };
  await readForeign(location, file, { ...form, headerLine: 1 }, rows, (found) => findings.push(found)).catch(
    (error: unknown) => {
      if (!(error instanceof Enough)) throw error;
    },
  );
  return lines;
}

/** The line whose cells are most often names of columns that we know; the first one when none is. */
function headerLineOf(lines: readonly Line[], known: KnownCodes): number {
  const names = new Set(
    PURPOSES.flatMap((purpose) => targetsOf(purpose, [...known.dimensions.keys()])).flatMap(({ synonyms }) => synonyms),
  );
  const scoreOf = ({ cells }: Line) => cells.filter((cell) => names.has(plainName(String(cell)))).length;
  const best = lines.slice(0, HEADER_WITHIN).reduce((a, b) => (scoreOf(b) > scoreOf(a) ? b : a), lines[0]!);
  return best.line;
}

async function headOf(location: string, encoding: string): Promise<string> {
  const handle = await open(location);
  const buffer = Buffer.alloc(HEAD);
  const { bytesRead } = await handle.read(buffer, 0, HEAD, 0);
  await handle.close();
  return new TextDecoder(encoding).decode(buffer.subarray(0, bytesRead));
}

const slug = (text: string) =>
  text
    .toLowerCase()
    .replace(/\.[a-z]+$/, '')
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '') || 'mapping';

const sameHeader = (a: readonly string[], b: readonly string[]) =>
  a.length === b.length && a.every((name, at) => name === b[at]);

/**
 * Looks into a foreign file and proposes how to read it; nothing is written.
 *
 * Shape: with errors in `findings` the file cannot be read at all; `questions` are for a person.
 */
export async function inspectFile(request: InspectRequest): Promise<ForeignInspection | { findings: Issue[] }> {
  const { location, fileName, known, kept, said = {} } = request;
  const asBook = isWorkbook(fileName);
  const findings: Issue[] = [];
  const isAudit = isAuditFile(fileName);
  const sheets = asBook ? await visibleSheets(location, fileName) : isAudit ? [...AUDIT_FILE_PARTS] : [];
  if (!Array.isArray(sheets)) return { findings: [sheets] };
  const hasParts = asBook || isAudit;
  const found = hasParts ? { encoding: 'utf-8' as const, isCertain: true } : await encodingOf(location);
  const encoding = said.encoding ?? found.encoding;
  const delimiter = said.delimiter ?? (hasParts ? ',' : delimiterOf(await headOf(location, encoding)));
  const sheet = said.sheet ?? sheets[0];
  const form: ForeignForm = { encoding, delimiter, sheet, headerLine: 1 };
  const lines = await firstLines(location, fileName, form, findings);
  if (findings.some(({ severity }) => severity === 'error')) return { findings };
  if (lines.length === 0) return { findings: [issue('CORE_TABLE_EMPTY', {}, { file: fileName })] };
  if (encoding.startsWith('utf-16'))
    findings.push(issue('CORE_TABLE_ENCODING_READ', { encoding: encoding.toUpperCase() }, { file: fileName }));
  const headerLine = said.headerLine ?? headerLineOf(lines, known);
  const at = lines.findIndex(({ line }) => line === headerLine);
  const header = lines[at]!.cells.map((cell) => String(cell).trim());
  const twice = checkHeader(fileName, header, headerLine);
  if (twice.length > 0) return { findings: [...findings, ...twice] };
  const rows = lines.slice(at + 1);
  const keptMapping = said.purpose ? undefined : kept.find((mapping) => sameHeader(mapping.header, header));
  const purpose = said.purpose ?? (isAudit ? PART_PURPOSES[sheet!] : undefined);
  const { questions, ...proposed } = proposeMapping({ header, rows: rows.map(({ cells }) => cells) }, known, purpose);
  // the standard says how numbers and dates are written
  if (isAudit) Object.assign(proposed, { decimal: '.', dateOrder: 'ymd' });
  const isGuess = !found.isCertain && said.encoding === undefined && !keptMapping;
  const telling = rows.find(({ cells }) => cells.some((cell) => /[^\u0000-\u007f]/.test(String(cell)))); // eslint-disable-line no-control-regex
  const text = telling?.cells.map(String).find((cell) => /[^\u0000-\u007f]/.test(cell)); // eslint-disable-line no-control-regex
  return {
    isWorkbook: hasParts,
    sheets,
    header,
    sample: rows.slice(0, ROWS_SHOWN).map(({ cells, line }) => ({ line, cells: cells.map(String) })),
    mapping: keptMapping ?? {
      schema: 1,
      kind: 'mapping',
      id: slug(fileName),
      name: fileName.replace(/\.[a-z]+$/i, ''),
      header,
      headerLine,
      encoding,
      delimiter: delimiter as Mapping['delimiter'],
      ...(sheet === undefined ? {} : { sheet }),
      values: {},
      ...proposed,
    },
    isKept: keptMapping !== undefined,
    questions: keptMapping || isAudit ? [] : questions,
    encodingText: isGuess && telling ? { line: telling.line, text: text! } : undefined,
    findings,
  };
}
