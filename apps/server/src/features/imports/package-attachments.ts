import { createHash } from 'node:crypto';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import { ATTACHMENT_FOLDER, issue, type Issue, type ResourceSpec, type TableRow } from '@margin-lens/core';
import { FILE_AT_MOST, hasAttachment, keepAttachment } from '../../store/attachments';
import type { PackageSource } from './package-source';

export const isAttachmentPath = (path: string): boolean => path.startsWith(ATTACHMENT_FOLDER);

/** Keeps the files that rows of attachments name, where they are those that the rows say; the others are reported. */
export async function keepAttachments(
  em: EntityManager,
  source: PackageSource,
  resource: ResourceSpec,
  rows: readonly TableRow[],
  report: (found: Issue) => void,
): Promise<void> {
  const cellOf = ({ cells }: TableRow, name: string) =>
    cells[resource.columns.findIndex((each) => each.name === name)]!;
  for (const row of rows) {
    const place = { file: resource.file, line: row.line, column: 'file' };
    await keepFile(em, source, { file: cellOf(row, 'file'), sha256: cellOf(row, 'sha256'), place }, report);
  }
}

/** Keeps a file of a package, where it is the one that is said; else it is reported. */
export async function keepFile(
  em: EntityManager,
  source: PackageSource,
  { file, sha256, place }: { file: string; sha256: string; place: NonNullable<Issue['place']> },
  report: (found: Issue) => void,
): Promise<void> {
  const size = source.files.find(({ path }) => path === file)?.bytes;
  if (size === undefined) {
    if (!(await hasAttachment(em, sha256))) report(issue('CORE_ATTACHMENT_MISSING', { file }, place));
  } else if (size > FILE_AT_MOST) report(issue('CORE_ATTACHMENT_LARGE', { file, limit: FILE_AT_MOST / 1e6 }, place));
  else {
    const bytes = await bytesOf(source, file);
    if (createHash('sha256').update(bytes).digest('hex') === sha256) await keepAttachment(em, sha256, bytes);
    else report(issue('CORE_ATTACHMENT_CHANGED', { file }, place));
  }
}

async function bytesOf(source: PackageSource, file: string): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of (await source.open(file)) as AsyncIterable<Buffer>) chunks.push(chunk);
  return Buffer.concat(chunks);
}
