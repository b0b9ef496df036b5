import type Database from 'better-sqlite3';
import type { SaveWorkspaceSetup, WorkspaceSetupView } from '@margin-lens/contract';
import { BASES, RESOURCES, type WorkspaceSettings } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { requireRight, type Viewer } from '../../base/viewer';
import { storeDocument } from '../../store/document-store';
import { openConnection } from '../../store/open-connection';
import { currentRows, storeMasterRows } from '../../store/master-store';

const ACCOUNTS = RESOURCES.find(({ name }) => name === 'accounts')!;
const ROLE = 'retained_earnings';

/** What holds for the workspace as a whole. */
export class WorkspaceSetupService {
  constructor(private readonly databaseFile: string) {}

  view(): WorkspaceSetupView {
    return this.withDatabase(viewOf);
  }

  /** @throws SRV_RIGHT_MISSING, SRV_SETTINGS_CHANGED, SRV_ACCOUNT_NOT_EQUITY */
  save(viewer: Viewer, { base, settings, retainedEarnings }: SaveWorkspaceSetup): WorkspaceSetupView {
    requireRight(viewer, 'set_up');
    return this.withDatabase((db) => {
      db.transaction(() => {
        requireUnchanged(db, base);
        const revision = newRevision(db, viewer.name, 'set up workspace');
        storeDocument(db, 'workspace', 'workspace', settings, revision);
        moveRole(db, retainedEarnings, revision);
      }).immediate();
      return viewOf(db);
    });
  }

  private withDatabase<T>(work: (db: Database.Database) => T): T {
    const db = openConnection(this.databaseFile);
    try {
      return work(db);
    } finally {
      db.close();
    }
  }
}

/** @throws SRV_SETTINGS_CHANGED when someone has saved settings after a revision */
function requireUnchanged(db: Database.Database, base: number): void {
  const change = db
    .prepare(
      `select r.person, r.at from document d join workspace_revision r on r.id = d.since
       where d.kind = 'workspace' and d.until is null and d.since > ?`,
    )
    .get(base) as { person: string; at: string } | undefined;
  if (change)
    throw appError('SRV_SETTINGS_CHANGED', { person: change.person, at: change.at.slice(0, 16).replace('T', ' ') });
}

/** Gives the role of the retained-earnings account to one account and takes it from the other. */
function moveRole(db: Database.Database, number: string | null, revision: number): void {
  const rows = currentRows(db, ACCOUNTS);
  const chosen = rows.find((row) => row['number'] === number);
  if (number !== null && chosen?.['nature'] !== 'equity') throw appError('SRV_ACCOUNT_NOT_EQUITY', { account: number });
  const changed = rows
    .filter((row) => (row['role'] === ROLE) !== (row['number'] === number))
    .map((row) => ({ ...row, role: row['number'] === number ? ROLE : '' }));
  const cells = (row: (typeof changed)[number]) =>
    ACCOUNTS.columns.map(({ name }) => String((row as Record<string, unknown>)[name] ?? ''));
  storeMasterRows(
    db,
    ACCOUNTS,
    changed.map((row) => ({ cells: cells(row), line: 0 })),
    revision,
  );
}

function viewOf(db: Database.Database): WorkspaceSetupView {
  const stored = db.prepare("select body from document where kind = 'workspace' and until is null").get() as
    { body: string } | undefined;
  const used = db.prepare('select distinct basis from balance where version = 0').pluck().all() as number[];
  const { revision } = db.prepare('select coalesce(max(id), 0) as revision from workspace_revision').get() as {
    revision: number;
  };
  const holder = currentRows(db, ACCOUNTS).find((row) => row['role'] === ROLE);
  return {
    revision,
    settings: stored
      ? (JSON.parse(stored.body) as WorkspaceSettings)
      : { name: 'Workspace', reporting_currency: 'EUR', fiscal_year_naming: 'ends' },
    bases: BASES.map((basis, index) => ({ basis, isUsed: used.includes(index) })),
    retainedEarnings: holder ? String(holder['number']) : null,
  };
}
