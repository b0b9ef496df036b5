import type Database from 'better-sqlite3';
import { RESOURCES, type ResourceSpec } from '@margin-lens/core';
import { storeDocument } from '../../store/document-store';
import { currentRows, storeMasterRows } from '../../store/master-store';
import { VERSION_SETTINGS, type StoredVersionSettings, type Version } from '../workspace/workspace-model';

const VERSIONS: ResourceSpec = RESOURCES.find(({ name }) => name === 'versions')!;

/** A version's row of the ledger package, as text by column. */
type VersionCells = Record<string, string>;

const cellsOf = ({
  code,
  name,
  kind,
  fromPeriod,
  toPeriod,
  cutOver,
  parent,
  state,
  rank,
}: Omit<Version, 'id' | 'settings'>): VersionCells => ({
  code,
  name,
  kind,
  from_period: fromPeriod,
  to_period: toPeriod,
  cut_over: cutOver,
  parent,
  state,
  rank: String(rank),
});

/** Writes a version's row; one that is there ends and begins anew, keeping its id. */
export function storeVersion(
  db: Database.Database,
  version: Omit<Version, 'id' | 'settings'>,
  revision: number,
): number {
  const stored = currentRows(db, VERSIONS).find((row) => row['code'] === version.code);
  const cells = cellsOf(version);
  const row = VERSIONS.columns.map(({ name }) => cells[name] ?? String(stored?.[name] ?? ''));
  storeMasterRows(db, VERSIONS, [{ cells: row, line: 1 }], revision);
  return currentRows(db, VERSIONS).find((each) => each['code'] === version.code)!.id;
}

export const storeSettings = (db: Database.Database, code: string, settings: StoredVersionSettings, revision: number) =>
  storeDocument(db, VERSION_SETTINGS, code, settings, revision);

/** Gives a version all figures of another that lie in a range of periods. */
export function copyFigures(
  db: Database.Database,
  from: number,
  to: number,
  periods: readonly number[],
  revision: number,
): void {
  const inRange = `version = ? and until is null and period in (${periods.join(',')})`;
  db.prepare(
    `insert into figure (version, entity, account, period, combination, amount, quantity, since)
     select ?, entity, account, period, combination, amount, quantity, ? from figure where ${inRange}`,
  ).run(to, revision, from);
  postFigures(db, to);
}

/** Makes the balances of a version that has none from its figures. */
function postFigures(db: Database.Database, version: number): void {
  db.prepare(
    `insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
     select version, entity, period, account, combination, 0, 0, max(amount, 0), max(-amount, 0), quantity
     from figure where version = ? and until is null`,
  ).run(version);
}

/** Takes a version out with its figures; all of it stays as ended rows. */
export function endVersion(db: Database.Database, { id, code }: Version, revision: number): void {
  db.prepare('update figure set until = ? where version = ? and until is null').run(revision, id);
  db.prepare('delete from balance where version = ?').run(id);
  db.prepare('update version set until = ? where code = ? and until is null').run(revision, code);
  db.prepare('update document set until = ? where kind = ? and id = ? and until is null').run(
    revision,
    VERSION_SETTINGS,
    code,
  );
}

/** Brings a version back that was taken out, with its figures and settings as they were; false when there is none. */
export function bringBackVersion(db: Database.Database, code: string, revision: number): boolean {
  const ended = db
    .prepare(
      `select row_id as row, id, until from version v where code = ? and until is not null
       and not exists (select 1 from version o where o.code = v.code and o.until is null) order by until desc limit 1`,
    )
    .get(code) as { row: number; id: number; until: number } | undefined;
  if (!ended) return false;
  const cells = 'id, code, name, kind, from_period, to_period, cut_over, parent, state, rate_set, rank';
  db.prepare(`insert into version (${cells}, since) select ${cells}, ? from version where row_id = ?`).run(
    revision,
    ended.row,
  );
  const figures = 'version, entity, account, period, combination, amount, quantity';
  db.prepare(
    `insert into figure (${figures}, since) select ${figures}, ? from figure where version = ? and until = ?`,
  ).run(revision, ended.id, ended.until);
  postFigures(db, ended.id);
  db.prepare(
    `insert into document (kind, id, body, since) select kind, id, body, ? from document
     where kind = ? and id = ? and until = ?`,
  ).run(revision, VERSION_SETTINGS, code, ended.until);
  return true;
}
