import type { JournalFile } from '@margin-lens/contract';
import { ATTACHMENT_FOLDER } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireAllValues, type Viewer } from '../../base/viewer';
import { attachmentOf, hasAttachment } from '../../store/attachments';
import { endMasterRows, resourceOf, storeMasterRows } from '../../store/masters';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { attachmentsOf } from './journal-sources';
import { journalView } from './journal-view';

/**
 * A file that hangs on a journal; one who may not see all of its lines may not see what shows them.
 * @throws SRV_JOURNAL_UNKNOWN, SRV_FILE_UNKNOWN
 */
export async function journalFile(snapshot: Snapshot, id: number, sha256: string) {
  const { files } = await journalView(snapshot, id);
  const found = files.find((file) => file.sha256 === sha256);
  if (!found) throw appError('SRV_FILE_UNKNOWN', { name: sha256.slice(0, 12) });
  return { name: found.name, bytes: await attachmentOf(snapshot.em, sha256) };
}

/** Hangs files on journals, and takes them off; the bytes stay, so that it can be taken back. */
export class JournalFilesService {
  private readonly resource = resourceOf('attachments');

  constructor(private readonly workspace: Workspace) {}

  /** @throws SRV_JOURNAL_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_FILE_UNKNOWN when no such file is kept */
  attach(viewer: Viewer, id: number, file: JournalFile): Promise<void> {
    const { name, sha256, journal, document } = file;
    return this.workspace.write(viewer, { kind: 'attach_file', subject: name }, async (write) => {
      requireAllValues(viewer);
      const { entity, fiscalYear, number, lines } = await journalView(write.snapshot, id);
      const isOfJournal = journal === number || (journal === '' && document !== '');
      const isOfDocument = document === '' || lines.some((line) => line.document === document);
      if (!isOfJournal || !isOfDocument || !(await hasAttachment(write.em, sha256)))
        throw appError('SRV_FILE_UNKNOWN', { name });
      const path = `${ATTACHMENT_FOLDER}${sha256.slice(0, 12)}-${name.replace(/[^\p{L}\p{N}._-]+/gu, '-')}`;
      const row = { entity: entity.code, fiscal_year: String(fiscalYear), ...file, file: path };
      const cells = this.resource.columns.map((column) => row[column.name as keyof typeof row]);
      await storeMasterRows(write, this.resource, [{ cells, line: 1 }]);
    });
  }

  /** @throws SRV_JOURNAL_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_FILE_UNKNOWN */
  detach(viewer: Viewer, id: number, { sha256, journal, document }: Omit<JournalFile, 'name'>): Promise<void> {
    return this.workspace.write(viewer, { kind: 'detach_file', subject: sha256.slice(0, 12) }, async (write) => {
      requireAllValues(viewer);
      const rows = await attachmentsOf(write.em, await journalView(write.snapshot, id));
      const named = rows.filter(
        (row) => row['sha256'] === sha256 && row['journal'] === journal && row['document'] === document,
      );
      if (named.length === 0) throw appError('SRV_FILE_UNKNOWN', { name: sha256.slice(0, 12) });
      const keys = named.map((row) => this.resource.key.map((column) => String(row[column] ?? '')));
      await endMasterRows(write, this.resource, keys);
    });
  }
}
