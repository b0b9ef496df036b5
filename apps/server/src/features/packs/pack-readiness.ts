import type { PackContext, PackReadiness } from '@margin-lens/contract';
import type { PackDocument } from '@margin-lens/core';
import { packChecks } from '../../base/words';
import type { ReadingThread } from '../../store/reading-thread';
import { booksCheck } from '../checks/books-check';
import { readinessView } from '../groups/readiness-view';
import { heldContext } from '../statements/open-statement';
import type { TieOutsService } from '../tie-outs/tie-outs-service';
import type { Snapshot } from '../workspace/snapshot';
import { packPages, type HowMade, type MadePage } from './pack-pages';
import { packOf } from './pack-view';

type Check = PackReadiness['checks'][number];

/** What proves the books that a pack stands on. */
export interface Proofs {
  reading: ReadingThread;
  tieOuts: TieOutsService;
}

/** Versions in which nothing is to be expected any more. */
const SETTLED: ReadonlySet<string> = new Set(['approved', 'locked']);

/** Lines that are said of one check. */
const SAID = 4;

/**
 * Whether a pack can be issued as it stands: books delivered and looked at, figures that agree, rates and pairs, versions
 * that are settled, and pages with nothing left to explain.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function packReadiness(
  snapshot: Snapshot,
  { reading, tieOuts }: Proofs,
  pack: PackDocument,
  wanted: PackContext,
  how: Omit<HowMade, 'isLive'>,
): Promise<PackReadiness> {
  const context = heldContext(pack, wanted);
  const { scope, at } = packOf(snapshot, context);
  const asked = { scope: scope.code, as_at: context.as_at };
  const ties = await tieOuts.view(snapshot, asked);
  const off = ties.ties.filter(({ agrees }) => !agrees);
  const agreeing = check('tie_outs', '/tie-outs', [
    ...(off.length > 0 ? [packChecks.off(off.length, ties.ties.length)] : []),
  ]);
  const pages = await packPages(snapshot, pack, context, { ...how, isLive: false });
  const ofBooks = snapshot.filled.group(scope.code)
    ? await ofGroup(snapshot, reading, asked)
    : await ofEntity(snapshot, reading, asked, at.key);
  return { checks: [...ofBooks, agreeing, ofVersions(snapshot, pages), ...ofPages(pages)] };
}

const check = (kind: Check['check'], path: string, open: readonly string[]): Check => ({
  ...{ check: kind, name: packChecks.name[kind], isDone: open.length === 0, path, page: '' },
  says: open.length > SAID ? [...open.slice(0, SAID), packChecks.more(open.length - SAID)] : [...open],
});

type Asked = { scope: string; as_at: string };

async function ofEntity(snapshot: Snapshot, reading: ReadingThread, asked: Asked, month: string): Promise<Check[]> {
  const entity = snapshot.filled.entity(asked.scope)!;
  const hasPostings = snapshot.postedPeriods(entity).some(({ key }) => key === month);
  const { findings } = await booksCheck(snapshot, reading, asked);
  const open = findings.filter(({ seen }) => !seen).length;
  return [
    check('delivered', '/deliveries', hasPostings ? [] : [packChecks.nothingPosted(entity.name)]),
    check('books', '/books-check', open > 0 ? [packChecks.findings(open)] : []),
  ];
}

async function ofGroup(snapshot: Snapshot, reading: ReadingThread, { scope, as_at }: Asked): Promise<Check[]> {
  const { findings } = await readinessView(snapshot, reading, scope, { as_at });
  const of = (...kinds: (typeof findings)[number]['kind'][]) =>
    findings.filter(({ kind }) => kinds.includes(kind)).map(({ says }) => says);
  return [
    check('delivered', '/deliveries', of('delivery')),
    check('books', '/readiness', of('books')),
    check('rates', '/rates', of('rates')),
    check('pairs', '/between-entities', of('pairs', 'partners')),
    check('group', '/readiness', of('owners', 'stock', 'eliminations')),
  ];
}

/** Versions that pages compare with or read, none of which may change any more. */
function ofVersions({ model }: Snapshot, pages: readonly MadePage[]): Check {
  const read = [...new Set(pages.flatMap(({ versions }) => versions))];
  const open = read.flatMap((code) => {
    const version = model.version(code);
    return version && !SETTLED.has(version.state) ? [packChecks.unsettled(version.name, version.state)] : [];
  });
  return check('versions', '/versions', open);
}

/** One check for each page that has something left, or one for them all. */
function ofPages(pages: readonly MadePage[]): Check[] {
  const left = pages.flatMap(({ paper: { id, page }, open, problem }) => {
    const says = [...(problem ? [problem] : []), ...open];
    return says.length > 0 ? [{ ...check('pages', '', says), name: page.title, page: id }] : [];
  });
  return left.length > 0 ? left : [check('pages', '', [])];
}
