import type { PackContext, PackReadiness } from '@margin-lens/contract';
import type { PackDocument } from '@margin-lens/core';
import { check, checkOfVersions, checksOfBooks, withOwners, type Check, type Proofs } from '../closing/issue-checks';
import { heldContext } from '../statements/open-statement';
import type { Snapshot } from '../workspace/snapshot';
import { packPages, type HowMade, type MadePage } from './pack-pages';

/**
 * Whether a pack can be issued as it stands: the books of its month, versions that are settled, and pages with nothing left
 * to explain.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function packReadiness(
  snapshot: Snapshot,
  proofs: Proofs,
  pack: PackDocument,
  wanted: PackContext,
  how: Omit<HowMade, 'isLive'>,
): Promise<PackReadiness> {
  const context = heldContext(pack, wanted);
  const ofBooks = await checksOfBooks(snapshot, proofs, context);
  const pages = await packPages(snapshot, pack, context, { ...how, isLive: false });
  const versions = checkOfVersions(
    snapshot,
    pages.flatMap((page) => page.versions),
  );
  return withOwners(snapshot, [...ofBooks, versions, ...ofPages(pages)]);
}

/** One check for each page that has something left, or one for them all. */
function ofPages(pages: readonly MadePage[]): Check[] {
  const left = pages.flatMap(({ paper: { id, page }, open, problem }) => {
    const says = [...(problem ? [problem] : []), ...open];
    return says.length > 0 ? [{ ...check('pages', '', says), name: page.title, page: id }] : [];
  });
  return left.length > 0 ? left : [check('pages', '', [])];
}
