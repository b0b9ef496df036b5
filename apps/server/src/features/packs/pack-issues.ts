import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { PackIssue } from '@margin-lens/contract';
import type { Viewer } from '../../base/viewer';
import { currentDocument, endDocument, storeDocument } from '../../store/documents';
import { whoAndWhen } from '../../store/people';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Workspace } from '../workspace/workspace';
import { keptPack } from './pack-view';

/** Kind of the documents that say that a pack was issued. */
const PACK_ISSUE = 'pack_issue';

/** Which pack, of whom and of when. */
interface Issued {
  pack: string;
  scope: string;
  /** Key of the period. */
  period: string;
}

const idOf = ({ pack, scope, period }: Issued): string => `${pack}|${scope}|${period}`;

/** A pack that was issued: by whom and when, and the revision that its figures were of. */
export interface IssuedPack {
  person: string;
  at: string;
  revision: number;
}

export async function issuedPack(em: EntityManager, of: Issued): Promise<IssuedPack | undefined> {
  const held = await currentDocument(em, PACK_ISSUE, idOf(of));
  return held ? { ...(await whoAndWhen(em, [held.since]))(held.since), revision: held.since } : undefined;
}

/**
 * Says that a pack was issued for a scope and month, as its figures are now; or takes that back.
 * @throws SRV_PACK_UNKNOWN, SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export function issuePack(
  workspace: Workspace,
  viewer: Viewer,
  pack: string,
  { scope, as_at, isIssued }: PackIssue,
): Promise<void> {
  const kind = isIssued ? 'issue_pack' : 'take_back_issue';
  return workspace.write(viewer, { kind, subject: pack }, async (write) => {
    keptPack(write.snapshot, pack);
    const opened = openScope(write.snapshot.filled, viewer, scope);
    const of = { pack, scope, period: openPeriod(opened, as_at).key };
    // issued anew, it is of the figures of now
    await endDocument(write, PACK_ISSUE, idOf(of));
    await write.em.flush();
    if (isIssued) await storeDocument(write, PACK_ISSUE, idOf(of), of);
  });
}
