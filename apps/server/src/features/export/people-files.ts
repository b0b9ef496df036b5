import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  REMARKS_FILE,
  VERSION_SETTINGS_FILE,
  type RemarkEntry,
  type VersionSettingsEntry,
} from '@margin-lens/contract';
import { CLOSING_FILE, EVIDENCE_FILE, SEEN_FILE, type ClosingFile, type SeenMark } from '@margin-lens/core';
import type { DocumentRow } from '../../store/documents';
import { Names } from '../../store/people';
import { VERSION_SETTINGS } from '../../store/versions';
import { closingList, closingTicks } from '../closing/kept-closing';
import { keptEvidence } from '../evidence/kept-evidence';
import { remarks } from '../remarks/remarks-service';
import type { StoredVersionSettings } from '../workspace/workspace-model';
import { jsonFile, type PackageFile } from './package-file';

/**
 * What people have written beside the books, as files of a package, where people have names: remarks, marks, evidence, the
 * month-end checklist, and who owns and edits versions.
 */
export async function peopleFiles(em: EntityManager, documents: readonly DocumentRow[]): Promise<PackageFile[]> {
  const names = await Names.read(em);
  const settings = documents
    .filter(({ kind }) => kind === VERSION_SETTINGS)
    .map(({ id, body }): VersionSettingsEntry => {
      const { owner, editors, opening, revises, frozenAt } = JSON.parse(body) as StoredVersionSettings;
      return {
        code: id,
        owner: names.of(owner),
        editors: editors.map((editor) => ({ ...editor, person: names.of(editor.person) })),
        ...(opening && { opening }),
        ...(revises && { revises }),
        isFrozen: frozenAt !== undefined,
      };
    });
  const marks = documents
    .filter(({ kind }) => kind === 'seen')
    .map(({ id, body }) => {
      const { key = id.slice(id.indexOf('|') + 1), ...mark } = JSON.parse(body) as Omit<SeenMark, 'key'> & {
        key?: string;
      };
      // marks of before they named their finding have it in their id
      return { key, ...mark, person: names.of(mark.person) };
    });
  const written = (await remarks(em)).map(({ changedBy: _, changedAt: __, ...remark }): RemarkEntry => remark);
  const evidence = await keptEvidence(em);
  const closing: ClosingFile = { ...(await closingList(em)), done: [...(await closingTicks(em)).values()] };
  return [
    ...(marks.length > 0 ? [jsonFile(SEEN_FILE, marks)] : []),
    ...(written.length > 0 ? [jsonFile(REMARKS_FILE, written)] : []),
    ...(evidence.length > 0 ? [jsonFile(EVIDENCE_FILE, evidence)] : []),
    ...(closing.tasks.length + closing.done.length > 0 ? [jsonFile(CLOSING_FILE, closing)] : []),
    ...(settings.length > 0 ? [jsonFile(VERSION_SETTINGS_FILE, settings)] : []),
  ];
}
