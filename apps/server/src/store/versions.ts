import type { EntityManager } from '@mikro-orm/better-sqlite';
import { bringBackFigures, endFigures } from './figures';
import { endDocument } from './documents';
import { resourceOf, storeMasterRows, touchMasters } from './masters';
import type { Write } from './store';
import { masterOf, StoredDocument, type MasterRow } from './tables';

const VERSIONS = resourceOf('versions');
const TABLE = masterOf(VERSIONS);
/** Kind of the documents that hold the settings of versions, by code. */
export const VERSION_SETTINGS = 'version_settings';

/** A version's row of the ledger package, as text by column. */
export type VersionCells = Readonly<Record<string, string>>;

const current = (em: EntityManager, code: string): Promise<MasterRow | null> =>
  em.findOne(TABLE, { code, until: null });

/** Writes a version's row; one that is there ends and begins anew, keeping its id and what the cells leave out. */
export async function storeVersion(write: Write, cells: VersionCells & { code: string }): Promise<number> {
  const before = await current(write.em, cells.code);
  const row = VERSIONS.columns.map(({ name }) => cells[name] ?? String(before?.[name] ?? ''));
  await storeMasterRows(write, VERSIONS, [{ cells: row, line: 1 }]);
  return before?.id ?? (await current(write.em, cells.code))!.id;
}

/** Takes a version out with its figures and settings; all of it stays as ended rows. */
export async function endVersion(write: Write, code: string): Promise<void> {
  const row = await current(write.em, code);
  if (!row) return;
  endFigures(write, row.id);
  row.endBy(write.revision);
  await endDocument(write, VERSION_SETTINGS, code);
  touchMasters(write, VERSIONS.name);
}

/** Brings a version back that was taken out, with its figures and settings as they were; false when there is none. */
export async function bringBackVersion(write: Write, code: string): Promise<boolean> {
  const { em, revision } = write;
  if (await current(em, code)) return false;
  const [ended] = await em.find(TABLE, { code }, { orderBy: { until: 'desc' }, limit: 1 });
  if (!ended) return false;
  const takenOutBy = ended.until!;
  const { row_id: _, ...cells } = { ...ended };
  em.create(TABLE, { ...cells, since: revision, until: null } as never);
  const settings = await em.findOne(StoredDocument, { kind: VERSION_SETTINGS, id: code, until: takenOutBy });
  if (settings)
    em.create(StoredDocument, { kind: VERSION_SETTINGS, id: code, body: settings.body, since: revision, until: null });
  bringBackFigures(write, ended.id, takenOutBy);
  touchMasters(write, VERSIONS.name);
  return true;
}
