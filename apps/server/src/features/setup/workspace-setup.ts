import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { SaveWorkspaceSetup, WorkspaceSetupView } from '@margin-lens/contract';
import { BASES, type WorkspaceSettings } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Viewer } from '../../base/viewer';
import { basesUsed } from '../../store/balances';
import { currentDocument, storeDocument } from '../../store/documents';
import { currentRows, resourceOf, storeMasterRows } from '../../store/masters';
import { whoAndWhen } from '../../store/people';
import type { Write } from '../../store/store';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';

const ACCOUNTS = resourceOf('accounts');
const ROLE = 'retained_earnings';
const KIND = 'workspace';

/** What holds for the workspace as a whole. */
export async function workspaceSetup({ em, db, revision, model }: Snapshot): Promise<WorkspaceSetupView> {
  const used = basesUsed(db);
  const holder = (await currentRows(em, ACCOUNTS)).find((row) => row['role'] === ROLE);
  return {
    revision,
    settings: model.settings ?? { name: 'Workspace', reporting_currency: 'EUR', fiscal_year_naming: 'ends' },
    bases: BASES.map((basis, index) => ({ basis, isUsed: used.includes(index) })),
    retainedEarnings: holder ? String(holder['number']) : null,
  };
}

/** @throws SRV_SETTINGS_CHANGED, SRV_ACCOUNT_NOT_EQUITY */
export async function saveWorkspaceSetup(
  workspace: Workspace,
  viewer: Viewer,
  { base, settings, retainedEarnings }: SaveWorkspaceSetup,
): Promise<WorkspaceSetupView> {
  await workspace.write(viewer, { kind: 'set_up_workspace', subject: '' }, async (write) => {
    await requireUnchanged(write.em, base);
    await storeDocument(write, KIND, KIND, settings satisfies WorkspaceSettings);
    await moveRole(write, retainedEarnings);
  });
  return workspace.read(viewer, workspaceSetup);
}

/** @throws SRV_SETTINGS_CHANGED when someone has saved settings after a revision */
async function requireUnchanged(em: EntityManager, base: number): Promise<void> {
  const stored = await currentDocument(em, KIND, KIND);
  if (!stored || stored.since <= base) return;
  const { person, at } = (await whoAndWhen(em, [stored.since]))(stored.since);
  throw appError('SRV_SETTINGS_CHANGED', { person, at: at.slice(0, 16).replace('T', ' ') });
}

/** Gives the role of the retained-earnings account to one account and takes it from the other. */
async function moveRole(write: Write, number: string | null): Promise<void> {
  const rows = await currentRows(write.em, ACCOUNTS);
  const chosen = rows.find((row) => row['number'] === number);
  if (number !== null && chosen?.['nature'] !== 'equity') throw appError('SRV_ACCOUNT_NOT_EQUITY', { account: number });
  const changed = rows
    .filter((row) => (row['role'] === ROLE) !== (row['number'] === number))
    .map((row) => ({ ...row, role: row['number'] === number ? ROLE : '' }));
  const cells = (row: (typeof changed)[number]) =>
    ACCOUNTS.columns.map(({ name }) => String((row as Record<string, unknown>)[name] ?? ''));
  await storeMasterRows(
    write,
    ACCOUNTS,
    changed.map((row) => ({ cells: cells(row), line: 0 })),
  );
}
