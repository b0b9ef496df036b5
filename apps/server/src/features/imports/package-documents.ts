import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import * as v from 'valibot';
import {
  ATTACHMENT_FOLDER,
  checkAllocation,
  CLOSING_FILE,
  ClosingFileSchema,
  DESCRIPTOR_FILE,
  DOCUMENT_FOLDERS,
  DocumentSchema,
  EVIDENCE_FILE,
  evidenceId,
  isProfitOrLoss,
  issue,
  KeptEvidenceSchema,
  MappingSchema,
  proposeRows,
  SEEN_FILE,
  seenId,
  SeenMarkSchema,
  STANDARD_COLUMNS,
  tickId,
  WorkspaceSettingsSchema,
  type AllocationDocument,
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
import { documentIds, storeDocument } from '../../store/documents';
import { rowsOf } from '../../store/masters';
import { personOfName } from '../../store/people';
import type { Write } from '../../store/store';
import { VERSION_SETTINGS } from '../../store/versions';
import { readMasters, type StoredVersionSettings } from '../workspace/workspace-model';
import { accountOfRow, cashFlowOfRow } from '../workspace/package-rows';
import { CLOSING_LIST, CLOSING_TICK, LIST_ID } from '../closing/kept-closing';
import { EVIDENCE } from '../evidence/kept-evidence';
import { keepFile } from './package-attachments';
import type { PackageSource } from './package-source';
import { fileWords, fileWrong, statementNames } from '../../base/words';

export const SETTINGS_FILE = 'workspace.json';

/** Files of a ledger package that are no tables. */
export const JSON_FILES: readonly string[] = [
  ...[DESCRIPTOR_FILE, SETTINGS_FILE, SEEN_FILE, REMARKS_FILE],
  ...[VERSION_SETTINGS_FILE, EVIDENCE_FILE, CLOSING_FILE],
];

const FOLDERS = new Set([...Object.values(DOCUMENT_FOLDERS), 'mappings']);

export const isDocumentPath = (path: string): boolean => {
  const [folder = '', file = '', ...deeper] = path.split('/');
  return FOLDERS.has(folder) && /.\.json$/.test(file) && deeper.length === 0;
};

/** Statements that a workspace begins with when a delivery brings none. */
const PROPOSED = [
  { purpose: 'income', id: 'income_statement', name: statementNames.income, columns: 'month_and_year_to_date' },
  { purpose: 'balance_sheet', id: 'balance_sheet', name: statementNames.balanceSheet, columns: 'month_ends' },
  { purpose: 'cash_flow', id: 'cash_flow', name: statementNames.cashFlow, columns: 'month_and_year_to_date' },
] as const;

/** Settings, layouts, statements, mappings and marks of a package, checked and kept under its revision. */
export class PackageDocuments {
  private readonly paths: ReadonlySet<string>;

  constructor(
    private readonly write: Write,
    private readonly source: PackageSource,
    private readonly report: (found: Issue) => void,
  ) {
    this.paths = new Set(source.files.map(({ path }) => path));
  }

  async readSettings(): Promise<void> {
    if (!this.paths.has(SETTINGS_FILE)) return;
    const raw = await this.readJson(SETTINGS_FILE);
    if (raw === undefined) return;
    const parsed = v.safeParse(WorkspaceSettingsSchema, raw);
    if (parsed.success) await storeDocument(this.write, 'workspace', 'workspace', parsed.output);
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
    const { em, revision } = this.write;
    const store = async (document: Document | Mapping) => {
      if (await storeDocument(this.write, document.kind, document.id, document)) written++;
    };
    const held = await documentIds(em, 'column_layout');
    for (const columns of STANDARD_COLUMNS) if (!held.has(columns.id)) await store(inOrder(columns));
    // a package names people; here they are kept by their ids
    const idOf = (name: string) => (name === '' ? name : personOfName(em, name));
    await this.readList(SEEN_FILE, SeenMarkSchema, async (mark) =>
      storeDocument(this.write, 'seen', seenId(mark), { ...mark, person: await idOf(mark.person) }),
    );
    await this.readList(REMARKS_FILE, RemarkEntrySchema, async ({ id, ...remark }) =>
      storeDocument(this.write, 'remark', id, { ...remark, author: await idOf(remark.author) }),
    );
    await this.readList(EVIDENCE_FILE, KeptEvidenceSchema, async (evidence) => {
      for (const { sha256 } of evidence.files) {
        const place = { file: EVIDENCE_FILE };
        await keepFile(em, this.source, { file: `${ATTACHMENT_FOLDER}${sha256}`, sha256, place }, this.report);
      }
      return storeDocument(this.write, EVIDENCE, evidenceId(evidence), {
        ...evidence,
        person: await idOf(evidence.person),
      });
    });
    await this.readFile(CLOSING_FILE, ClosingFileSchema, async ({ done, ...list }) => {
      await storeDocument(this.write, CLOSING_LIST, LIST_ID, list);
      for (const tick of done)
        await storeDocument(this.write, CLOSING_TICK, tickId(tick), { ...tick, person: await idOf(tick.person) });
    });
    await this.readList(VERSION_SETTINGS_FILE, VersionSettingsEntrySchema, async ({ code, isFrozen, ...entry }) => {
      const editors = [];
      for (const editor of entry.editors) editors.push({ ...editor, person: await idOf(editor.person) });
      const settings: StoredVersionSettings = { ...entry, owner: await idOf(entry.owner), editors };
      return storeDocument(this.write, VERSION_SETTINGS, code, {
        ...settings,
        ...(isFrozen && { frozenAt: revision }),
      });
    });
    const allocations: { path: string; allocation: AllocationDocument }[] = [];
    for (const path of [...this.paths].filter(isDocumentPath)) {
      const raw = await this.readJson(path);
      const parsed = v.safeParse(path.startsWith('mappings/') ? MappingSchema : DocumentSchema, raw);
      if (parsed.success) {
        await store(parsed.output);
        if (parsed.output.kind === 'allocation') allocations.push({ path, allocation: parsed.output });
      } else if (raw !== undefined) {
        const problem = firstProblem(parsed.issues);
        this.report(issue('CORE_DOCUMENT_INVALID', { file: path, problem }, { file: path }));
      }
    }
    await this.checkAllocations(allocations.filter(({ allocation }) => allocation.archived !== true));
    if ((await documentIds(em, 'statement')).size === 0)
      for (const document of await this.proposed()) await store(document);
    return written;
  }

  /** Rules by which costs are spread, against the chart, values and entities as they stand with the package. */
  private async checkAllocations(all: readonly { path: string; allocation: AllocationDocument }[]): Promise<void> {
    if (all.length === 0) return;
    const { accounts, entities, datedTrees } = await readMasters(this.write.em);
    for (const { path, allocation } of all)
      for (const found of checkAllocation(allocation, { accounts, entities, trees: datedTrees.latest }))
        this.report({ ...found, place: { file: path } });
  }

  /** Statements from the chart alone: income, balance sheet and cash flow, where it has the accounts for them. */
  private async proposed(): Promise<Document[]> {
    const { em } = this.write;
    const accounts = (await rowsOf(em, 'accounts')).map(accountOfRow);
    const cashFlow = (await rowsOf(em, 'cash_flow')).map(cashFlowOfRow);
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
  private readList<T extends v.GenericSchema>(
    file: string,
    entry: T,
    keep: (entry: v.InferOutput<T>) => Promise<unknown>,
  ): Promise<void> {
    return this.readFile(file, v.array(entry), async (entries) => {
      for (const each of entries as v.InferOutput<T>[]) await keep(each);
    });
  }

  /** Reads a file of its own kind, where the package has it. */
  private async readFile<T extends v.GenericSchema>(
    file: string,
    schema: T,
    keep: (content: v.InferOutput<T>) => Promise<unknown>,
  ): Promise<void> {
    if (!this.paths.has(file)) return;
    const raw = await this.readJson(file);
    const parsed = v.safeParse(schema, raw);
    if (parsed.success) await keep(parsed.output);
    else if (raw !== undefined) {
      const problem = firstProblem(parsed.issues);
      this.report(issue('CORE_DOCUMENT_INVALID', { file, problem }, { file }));
    }
  }

  private readonly readJson = (file: string) => jsonOf(this.source, file, this.report);
}

async function jsonOf(source: PackageSource, file: string, report: (found: Issue) => void): Promise<unknown> {
  try {
    return JSON.parse(await textOf(await source.open(file)));
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    report(issue('CORE_PACKAGE_JSON_INVALID', { file, problem }, { file }));
    return undefined;
  }
}

/** Holds the files against what the descriptor says of them, where it does: a package that was cut off is not whole. */
export async function checkDescriptor(source: PackageSource, report: (found: Issue) => void): Promise<void> {
  const paths = new Set(source.files.map(({ path }) => path));
  if (!paths.has(DESCRIPTOR_FILE)) return;
  const parsed = v.safeParse(DescriptorSchema, await jsonOf(source, DESCRIPTOR_FILE, report));
  for (const { path, hash } of parsed.success ? parsed.output.resources : []) {
    if (hash === undefined) continue;
    if (!paths.has(path)) report(issue('CORE_PACKAGE_FILE_MISSING', { file: path }, { file: path }));
    else if (`sha256:${await hashOf(await source.open(path))}` !== hash)
      report(issue('CORE_PACKAGE_FILE_CHANGED', { file: path }, { file: path }));
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
  `${v.getDotPath(issues[0]) ?? fileWords.document}: ${issues[0].message}`;

/** Largest document of a package, bytes. */
const DOCUMENT_AT_MOST = 5_000_000; // 1 to 50 million

async function textOf(stream: Readable): Promise<string> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > DOCUMENT_AT_MOST) throw new Error(fileWrong.largerThan(DOCUMENT_AT_MOST / 1e6));
    chunks.push(chunk);
  }
  return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks));
}
