import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import type Database from 'better-sqlite3';
import * as v from 'valibot';
import {
  DESCRIPTOR_FILE,
  DocumentSchema,
  isProfitOrLoss,
  issue,
  MappingSchema,
  proposeRows,
  SEEN_FILE,
  seenId,
  SeenMarkSchema,
  STANDARD_COLUMNS,
  WorkspaceSettingsSchema,
  type Document,
  type Issue,
  type Mapping,
} from '@margin-lens/core';
import {
  REMARKS_FILE,
  RemarkEntrySchema,
  VERSION_SETTINGS_FILE,
  VersionSettingsEntrySchema,
} from '@margin-lens/contract';
import { VERSION_SETTINGS } from '../workspace/workspace-model';
import { accountOfRow, cashFlowOfRow } from '../workspace/package-rows';
import { rowsOf } from './check-masters';
import { documentIds, storeDocument } from '../../store/document-store';
import type { PackageSource } from './package-source';

export const SETTINGS_FILE = 'workspace.json';

/** Files of a ledger package that are no tables. */
export const JSON_FILES: readonly string[] = [DESCRIPTOR_FILE, SETTINGS_FILE, SEEN_FILE];

export const isDocumentPath = (path: string): boolean => /^(layouts|statements|mappings)\/[^/]+\.json$/.test(path);

/** Statements that a workspace begins with when a delivery brings none. */
const PROPOSED = [
  { purpose: 'income', id: 'income_statement', name: 'Income statement', columns: 'month_and_year_to_date' },
  { purpose: 'balance_sheet', id: 'balance_sheet', name: 'Balance sheet', columns: 'month_ends' },
  { purpose: 'cash_flow', id: 'cash_flow', name: 'Cash flow statement', columns: 'month_and_year_to_date' },
] as const;

/** Settings, layouts, statements, mappings and marks of a package, checked and kept under its revision. */
export class PackageDocuments {
  private readonly paths: ReadonlySet<string>;

  constructor(
    private readonly db: Database.Database,
    private readonly source: PackageSource,
    private readonly revision: number,
    private readonly report: (found: Issue) => void,
  ) {
    this.paths = new Set(source.files.map(({ path }) => path));
  }

  async readSettings(): Promise<void> {
    if (this.paths.has(DESCRIPTOR_FILE)) await this.checkFiles(await this.readJson(DESCRIPTOR_FILE));
    if (!this.paths.has(SETTINGS_FILE)) return;
    const raw = await this.readJson(SETTINGS_FILE);
    if (raw === undefined) return;
    const parsed = v.safeParse(WorkspaceSettingsSchema, raw);
    if (parsed.success) storeDocument(this.db, 'workspace', 'workspace', parsed.output, this.revision);
    else
      this.report(
        issue(
          'CORE_PACKAGE_JSON_INVALID',
          { file: SETTINGS_FILE, problem: firstProblem(parsed.issues) },
          { file: SETTINGS_FILE },
        ),
      );
  }

  /** Documents of the package, the standard column layouts, and a proposed statement where there is none at all. */
  async readDocuments(): Promise<number> {
    let written = 0;
    const store = (document: Document | Mapping) => {
      if (storeDocument(this.db, document.kind, document.id, document, this.revision)) written++;
    };
    const held = documentIds(this.db, 'column_layout');
    for (const columns of STANDARD_COLUMNS) if (!held.has(columns.id)) store(inOrder(columns));
    await this.readList(SEEN_FILE, SeenMarkSchema, (mark) =>
      storeDocument(this.db, 'seen', seenId(mark), mark, this.revision),
    );
    await this.readList(REMARKS_FILE, RemarkEntrySchema, ({ id, ...remark }) =>
      storeDocument(this.db, 'remark', id, remark, this.revision),
    );
    await this.readList(VERSION_SETTINGS_FILE, VersionSettingsEntrySchema, ({ code, isFrozen, ...settings }) =>
      storeDocument(
        this.db,
        VERSION_SETTINGS,
        code,
        { ...settings, ...(isFrozen && { frozenAt: this.revision }) },
        this.revision,
      ),
    );
    for (const path of [...this.paths].filter(isDocumentPath)) {
      const raw = await this.readJson(path);
      const parsed = v.safeParse(path.startsWith('mappings/') ? MappingSchema : DocumentSchema, raw);
      if (parsed.success) store(parsed.output);
      else if (raw !== undefined) {
        const problem = firstProblem(parsed.issues);
        this.report(issue('CORE_DOCUMENT_INVALID', { file: path, problem }, { file: path }));
      }
    }
    if (documentIds(this.db, 'statement').size === 0) for (const document of this.proposed()) store(document);
    return written;
  }

  /** Statements from the chart alone: income, balance sheet and cash flow, where it has the accounts for them. */
  private proposed(): Document[] {
    const accounts = rowsOf(this.db, 'accounts').map(accountOfRow);
    const cashFlow = rowsOf(this.db, 'cash_flow').map(cashFlowOfRow);
    const has = {
      income: accounts.some(isProfitOrLoss),
      balance_sheet: accounts.some(({ nature }) => nature === 'asset'),
      cash_flow: accounts.some(({ role }) => role === 'cash'),
    };
    return PROPOSED.filter(({ purpose }) => has[purpose]).flatMap(({ purpose, id, name, columns }): Document[] => {
      const rows = proposeRows(purpose, accounts, cashFlow);
      return [inOrder(rows), { schema: 1, kind: 'statement', id, name, rows: rows.id, columns, unit: 1 }];
    });
  }

  /** Reads a file that holds a list, where the package has it; one wrong entry refuses it all. */
  private async readList<T extends v.GenericSchema>(
    file: string,
    entry: T,
    keep: (entry: v.InferOutput<T>) => unknown,
  ): Promise<void> {
    if (!this.paths.has(file)) return;
    const raw = await this.readJson(file);
    const parsed = v.safeParse(v.array(entry), raw);
    if (parsed.success) for (const each of parsed.output as v.InferOutput<T>[]) keep(each);
    else if (raw !== undefined) {
      const problem = firstProblem(parsed.issues);
      this.report(issue('CORE_DOCUMENT_INVALID', { file, problem }, { file }));
    }
  }

  /** Holds the files against what the descriptor says of them, where it does: a package that was cut off is not whole. */
  private async checkFiles(descriptor: unknown): Promise<void> {
    const parsed = v.safeParse(DescriptorSchema, descriptor);
    for (const { path, hash } of parsed.success ? parsed.output.resources : []) {
      if (hash === undefined) continue;
      if (!this.paths.has(path)) this.report(issue('CORE_PACKAGE_FILE_MISSING', { file: path }, { file: path }));
      else if (`sha256:${await hashOf(await this.source.open(path))}` !== hash)
        this.report(issue('CORE_PACKAGE_FILE_CHANGED', { file: path }, { file: path }));
    }
  }

  private async readJson(file: string): Promise<unknown> {
    try {
      return JSON.parse(await textOf(await this.source.open(file)));
    } catch (error) {
      const problem = error instanceof Error ? error.message : String(error);
      this.report(issue('CORE_PACKAGE_JSON_INVALID', { file, problem }, { file }));
      return undefined;
    }
  }
}

/** What is read of a descriptor; other hashes than SHA-256 are left alone. */
const DescriptorSchema = v.object({
  resources: v.array(
    v.object({ path: v.string(), hash: v.optional(v.pipe(v.string(), v.regex(/^sha256:[0-9a-f]{64}$/))) }),
  ),
});

async function hashOf(stream: Readable): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of stream as AsyncIterable<Buffer>) hash.update(chunk);
  return hash.digest('hex');
}

/** A document in the order of its schema, so that it is equal when it comes back from a package. */
const inOrder = (document: Document): Document => v.parse(DocumentSchema, document);

const firstProblem = (issues: [v.BaseIssue<unknown>, ...v.BaseIssue<unknown>[]]): string =>
  `${v.getDotPath(issues[0]) ?? 'the document'}: ${issues[0].message}`;

/** Largest document of a package, bytes. */
const DOCUMENT_AT_MOST = 5_000_000; // 1 to 50 million

async function textOf(stream: Readable): Promise<string> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > DOCUMENT_AT_MOST) throw new Error(`it is larger than ${DOCUMENT_AT_MOST / 1e6} MB`);
    chunks.push(chunk);
  }
  return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks));
}
