import type Database from 'better-sqlite3';
import {
  REMARKS_FILE,
  VERSION_SETTINGS_FILE,
  type RemarkEntry,
  type RemarkText,
  type VersionSettingsEntry,
} from '@margin-lens/contract';
import { VERSION_SETTINGS, type StoredVersionSettings } from '../workspace/workspace-model';
import { jsonFile, type PackageFile } from './package-file';

interface StoredDocument {
  kind: string;
  id: string;
  body: string;
}

/** What people have written beside the books, as files of a package: remarks, and who owns and edits versions. */
export function peopleFiles(db: Database.Database, documents: readonly StoredDocument[]): PackageFile[] {
  const remarks = documents.filter(({ kind }) => kind === 'remark').map(({ id, body }) => remarkEntry(db, id, body));
  const settings = documents
    .filter(({ kind }) => kind === VERSION_SETTINGS)
    .map(({ id, body }): VersionSettingsEntry => {
      const { owner, editors, opening, revises, frozenAt } = JSON.parse(body) as StoredVersionSettings;
      return {
        code: id,
        owner,
        editors,
        ...(opening && { opening }),
        ...(revises && { revises }),
        isFrozen: frozenAt !== undefined,
      };
    });
  return [
    ...(remarks.length > 0 ? [jsonFile(REMARKS_FILE, remarks)] : []),
    ...(settings.length > 0 ? [jsonFile(VERSION_SETTINGS_FILE, settings)] : []),
  ];
}

function remarkEntry(db: Database.Database, id: string, body: string): RemarkEntry {
  const first = db
    .prepare(
      `select r.person as author, r.at as writtenAt from document d join workspace_revision r on r.id = d.since
       where d.kind = 'remark' and d.id = ? order by d.since limit 1`,
    )
    .get(id) as Pick<RemarkEntry, 'author' | 'writtenAt'>;
  return { ...first, ...(JSON.parse(body) as RemarkText), id };
}
