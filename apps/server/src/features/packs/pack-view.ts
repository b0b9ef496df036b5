import type { PackContext, PackView } from '@margin-lens/contract';
import { marksOfParts, periodName, type PackDocument, type Sheet } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { packWords } from '../../base/words';
import { fileApart } from '../../base/work-apart';
import { lastDelivery } from '../../store/import-runs';
import { heldContext } from '../statements/open-statement';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { packBound } from './pack-bound';
import { packPaper } from './pack-file';
import { packPages, type HowMade } from './pack-pages';

/** Whose figures a pack shows, and as at when, in words. */
export function packOf(snapshot: Snapshot, { scope: code, as_at }: PackContext) {
  const scope = openScope(snapshot.filled, snapshot.viewer, code);
  const at = openPeriod(scope, as_at);
  return { scope, at, words: `${scope.name} · ${packWords.asAt(at)}` };
}

/** A pack as it will print. @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN */
export async function packView(
  snapshot: Snapshot,
  pack: PackDocument,
  asked: PackContext,
  how: Omit<HowMade, 'isLive'>,
): Promise<PackView> {
  const started = performance.now();
  const context = heldContext(pack, asked);
  const { scope, at, words } = packOf(snapshot, context);
  const made = await packPages(snapshot, pack, context, { ...how, isLive: false });
  const laid = await fileApart('laySheets', packPaper(pack, made, words));
  const { sheets, begins } = JSON.parse(laid.toString()) as { sheets: Sheet[]; begins: Record<string, number> };
  return {
    scope: { code: scope.code, name: scope.name, currency: context.currency ?? scope.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    pages: made.map(({ paper, says, differs, open, problem }) => ({
      ...{ id: paper.id, title: paper.page.title, says, differs, open, problem },
      figures: paper.page.blocks.flatMap((block) =>
        block.kind === 'tiles' ? block.tiles.map(({ label }) => label) : [],
      ),
      sheet: begins[paper.id] ?? 0,
    })),
    sheets: sheets.map(({ page, width, height, parts }) => ({ page, width, height, marks: marksOfParts(parts) })),
    bound: packBound(snapshot, pack, scope, made),
    movedAt: (await lastDelivery(snapshot.em))?.finishedAt ?? null,
    madeInMs: Math.round(performance.now() - started),
  };
}

/** @throws SRV_PACK_UNKNOWN */
export function keptPack({ filled }: Snapshot, id: string): PackDocument {
  const packs = filled.documentsOf('pack');
  const found = packs.find((pack) => pack.id === id);
  if (!found) throw appError('SRV_PACK_UNKNOWN', { id, known: packs.map((pack) => pack.id).join(', ') });
  return found;
}
