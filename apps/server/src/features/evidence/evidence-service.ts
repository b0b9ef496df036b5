import type { SaveEvidence } from '@margin-lens/contract';
import { balanceOf, evidenceId, isOfBalanceSheet, type BalanceEvidence, type KeptEvidence } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee, requireAllValues, type Viewer } from '../../base/viewer';
import { expected } from '../../base/words';
import { attachmentOf, hasAttachment } from '../../store/attachments';
import { currentDocument, endDocument, storeDocument } from '../../store/documents';
import { whoAndWhen } from '../../store/people';
import { openEntity, openPeriod } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace, WorkspaceWrite } from '../workspace/workspace';
import { EVIDENCE, keptEvidence } from './kept-evidence';

/** Writes what balances are held against. */
export class EvidenceService {
  constructor(private readonly workspace: Workspace) {}

  /**
   * Writes and takes out evidence, all in one revision; with anything wrong in it nothing is written.
   * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUE_UNKNOWN, SRV_EVIDENCE_CHANGED,
   *   SRV_FILE_UNKNOWN
   */
  save(viewer: Viewer, { base, put, remove }: SaveEvidence): Promise<void> {
    const subject = [...new Set([...put, ...remove].map(({ scope }) => scope))].join(', ');
    return this.workspace.write(viewer, { kind: 'write_evidence', subject }, async (write) => {
      requireAllValues(viewer);
      for (const each of [...put, ...remove]) {
        openEntity(write.snapshot.filled, viewer, each.scope);
        await requireUnchanged(write, base, each);
      }
      for (const each of put) await this.put(write, viewer, each);
      for (const each of remove) await endDocument(write, EVIDENCE, evidenceId(each));
    });
  }

  private async put(write: WorkspaceWrite, viewer: Viewer, evidence: BalanceEvidence): Promise<void> {
    const { filled: model } = write.snapshot;
    const entity = openEntity(model, viewer, evidence.scope);
    const at = openPeriod(entity, evidence.period);
    const index = model.accounts.findIndex(({ number }) => number === evidence.account);
    const account = model.accounts[index];
    if (!account || !isOfBalanceSheet(account))
      throw appError('SRV_VALUE_UNKNOWN', {
        what: expected.balanceAccount,
        text: evidence.account,
        known: model.accounts
          .filter(isOfBalanceSheet)
          .map(({ number }) => number)
          .slice(0, 20)
          .join(', '),
      });
    for (const { name, sha256 } of evidence.files)
      if (!(await hasAttachment(write.em, sha256))) throw appError('SRV_FILE_UNKNOWN', { name });
    const slice = (await write.snapshot.books()).read(entity);
    const balance = balanceOf(slice, index, at.ordinal);
    const kept: KeptEvidence = { ...evidence, balance, person: viewer.id, at: new Date().toISOString() };
    await storeDocument(write, EVIDENCE, evidenceId(evidence), kept);
  }
}

/** A file of evidence that may be seen. @throws SRV_FILE_UNKNOWN */
export async function evidenceFile({ em, viewer }: Snapshot, sha256: string): Promise<{ name: string; bytes: Buffer }> {
  const files = (await keptEvidence(em)).filter(({ scope }) => maySee(viewer, scope)).flatMap(({ files }) => files);
  const found = files.find((file) => file.sha256 === sha256);
  if (!found) throw appError('SRV_FILE_UNKNOWN', { name: sha256.slice(0, 12) });
  return { name: found.name, bytes: await attachmentOf(em, sha256) };
}

/** What someone else has written since it was read is not overwritten. */
async function requireUnchanged(
  { em }: WorkspaceWrite,
  base: number,
  place: Pick<BalanceEvidence, 'scope' | 'account' | 'period'>,
): Promise<void> {
  const held = await currentDocument(em, EVIDENCE, evidenceId(place));
  if (!held || held.since <= base) return;
  const { person } = (await whoAndWhen(em, [held.since]))(held.since);
  throw appError('SRV_EVIDENCE_CHANGED', { account: place.account, person });
}
