import type { PackContext, PackSince } from '@margin-lens/contract';
import { figureChanges, periodName, rowChanges, shiftMonths, withShared, type PackDocument } from '@margin-lens/core';
import type { Viewer } from '../../base/viewer';
import { heldContext } from '../statements/open-statement';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { issuedPack } from './pack-issues';
import { packPages, type HowMade, type MadePage } from './pack-pages';
import { packOf } from './pack-view';

/** Figures that are listed of a page. */
const MOST_MOVED = 12; // 5 to 50

/**
 * What is new and gone on the pages of a pack against the month before, and which figures of that month have moved since
 * its pack was issued.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export async function packSince(
  workspace: Workspace,
  viewer: Viewer,
  snapshot: Snapshot,
  pack: PackDocument,
  wanted: PackContext,
  how: Omit<HowMade, 'isLive'>,
): Promise<PackSince> {
  const context = heldContext(pack, wanted);
  const { scope, at } = packOf(snapshot, context);
  const issuedOf = (period: string) => issuedPack(snapshot.em, { pack: pack.id, scope: scope.code, period });
  const told = { asAt: { key: at.key, name: periodName(at) }, issued: who(await issuedOf(at.key)) };
  const before = shiftMonths(scope.calendar.calendar, at, 1);
  if (!before) return { ...told, before: null, pages: [] };
  const issued = await issuedOf(before.key);
  const whole = withShared(pack, snapshot.filled.documentsOf('pack'));
  const figures = { ...whole, pages: whole.pages.filter(({ kind }) => kind === 'figures') };
  const making = { ...how, isLive: false };
  const earlier = { ...context, as_at: before.key };
  const now = await packPages(snapshot, figures, context, making);
  const then = await packPages(snapshot, figures, earlier, making);
  const asIssued =
    issued && (await workspace.read(viewer, (past) => packPages(past, figures, earlier, making), issued.revision));
  return {
    ...told,
    before: { key: before.key, name: periodName(before), issued: who(issued) },
    pages: now.map((page, index) => changesOf(page, then[index]!, asIssued?.[index])),
  };
}

const who = (issued: { person: string; at: string } | undefined): PackSince['issued'] =>
  issued ? { person: issued.person, at: issued.at } : null;

function changesOf(now: MadePage, then: MadePage, asIssued: MadePage | undefined): PackSince['pages'][number] {
  const { page, id } = now.paper;
  const { added, gone } = now.problem || then.problem ? { added: [], gone: [] } : rowChanges(then.paper.page, page);
  const moved = asIssued && !asIssued.problem ? figureChanges(asIssued.paper.page, then.paper.page) : [];
  return {
    ...{ page: id, title: page.title, added: added.map(({ label }) => label), gone: gone.map(({ label }) => label) },
    moved: moved.slice(0, MOST_MOVED).map(({ size: _, ...change }) => change),
    more: Math.max(0, moved.length - MOST_MOVED),
  };
}
