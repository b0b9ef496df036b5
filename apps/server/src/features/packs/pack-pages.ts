import { setImmediate as nextTurn } from 'node:timers/promises';
import type { PackContext } from '@margin-lens/contract';
import { withShared, type PackDocument, type PackPage, type PaperPage, type ShownUnit } from '@margin-lens/core';
import { endIfStopped } from '../../base/stop';
import { sightOf } from '../../base/viewer';
import { packWords } from '../../base/words';
import type { KeptPages } from './kept-pages';
import { differsInWords } from './page-context';
import { triedPage, type PageAsked, type Tried } from './content-maker';
import type { FiguresThread } from '../workspace/figures-thread';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/** A page of a pack as it is printed, and what is to be known of it. */
export interface MadePage {
  paper: PaperPage;
  /** What money is read in. */
  unit: ShownUnit;
  says: string;
  differs: string[];
  open: string[];
  problem: string;
  /** Codes of versions that it compares with, or goes on with. */
  versions: string[];
}

export type PagesKept = KeptPages<Tried>;

/** How pages are made: with formulas that follow or not, beside those that were made before. */
export interface HowMade {
  isLive: boolean;
  kept: PagesKept;
  /** Makes those with figures, in a large workspace. */
  figures: FiguresThread;
}

/** Kinds of pages on which nothing is computed. */
const WITHOUT_FIGURES: ReadonlySet<PackPage['kind']> = new Set(['cover', 'contents', 'section', 'shared']);

/**
 * Makes the pages of a pack, each of which is read in the context of the pack, but for what it says of itself. A page that
 * cannot be made says why, and the others are made.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN of the pack itself
 */
export async function packPages(
  snapshot: Snapshot,
  pack: PackDocument,
  context: PackContext,
  how: HowMade,
): Promise<MadePage[]> {
  const whole = withShared(pack, snapshot.filled.documentsOf('pack'));
  // what is wrong with the pack itself is said once, and not on each of its pages
  const scope = openScope(snapshot.filled, snapshot.viewer, context.scope, context.currency);
  openPeriod(scope, context.as_at);
  const maker = new PageMaker(snapshot, whole, context, how);
  const made: MadePage[] = [];
  for (const [at, page] of whole.pages.entries()) {
    made.push(withOrigin(await maker.make(page), snapshot, pack.pages[at]!));
    await nextTurn(); // others are answered in between
    endIfStopped();
  }
  return whole.pages.map((page, at) => (page.kind === 'contents' ? withContents(made[at]!, whole, made) : made[at]!));
}

/** Says of a page that is shared of which pack it is. */
function withOrigin(made: MadePage, { filled }: Snapshot, page: PackPage): MadePage {
  if (page.kind !== 'shared' || made.problem) return made;
  const name = filled.documentsOf('pack').find(({ id }) => id === page.pack)?.name ?? page.pack;
  return { ...made, differs: [packWords.shared(name), ...made.differs] };
}

/** The pages behind it, by their titles. */
function withContents(own: MadePage, { pages }: PackDocument, made: readonly MadePage[]): MadePage {
  const entries = pages.flatMap(({ kind, id }, at) => {
    const isListed = kind !== 'cover' && kind !== 'contents';
    const { title, subtitle } = made[at]!.paper.page;
    return isListed
      ? [{ page: id, title, note: kind === 'section' ? '' : subtitle, isSection: kind === 'section' }]
      : [];
  });
  const page = { ...own.paper.page, blocks: [{ kind: 'contents' as const, entries }] };
  return { ...own, paper: { ...own.paper, page } };
}

class PageMaker {
  private readonly isLarge: boolean;

  constructor(
    private readonly snapshot: Snapshot,
    private readonly pack: PackDocument,
    private readonly context: PackContext,
    private readonly how: HowMade,
  ) {
    this.isLarge = how.figures.isWorth(snapshot);
  }

  async make(page: PackPage): Promise<MadePage> {
    const { header = '', footer = '', orientation } = this.pack;
    const { content, problem } = await this.how.kept.of(this.keyOf(page), () => this.tried(page));
    const title = page.title ?? content.title ?? packWords.kind[page.kind];
    const paper: PaperPage = {
      ...{ id: page.id, orientation: page.orientation ?? orientation, follows: page.follows },
      page: {
        ...{ title, header, footer, asAt: '', subtitle: content.subtitle ?? '', blocks: content.blocks },
        ...(content.facts && { facts: content.facts }),
      },
    };
    return {
      ...{ paper, problem, unit: content.unit ?? 1, says: this.saysOf(page), open: content.open ?? [] },
      versions: content.versions ?? [],
      differs: differsInWords(this.snapshot, page, this.context),
    };
  }

  /** What a page shows, made by the thread where that could hold everybody. */
  private tried(page: PackPage): Promise<Tried> {
    const { snapshot, pack, context } = this;
    const { isLive, figures } = this.how;
    const query: PageAsked = { pack, page, context, isLive };
    if (!this.isLarge || WITHOUT_FIGURES.has(page.kind)) return triedPage(snapshot, page.id, query);
    return figures.ask(snapshot, { work: 'page', id: page.id, query });
  }

  /** All that a page shows is made from, as a text. */
  private keyOf({ orientation: _, follows: __, ...page }: PackPage): string {
    const { viewer, revision } = this.snapshot;
    const { name, unit } = this.pack;
    return JSON.stringify([
      revision,
      sightOf(viewer).key,
      viewer.style,
      this.context,
      this.how.isLive,
      name,
      unit,
      page,
    ]);
  }

  private saysOf(page: PackPage): string {
    const shown = 'of' in page ? this.snapshot.model.pages.find(({ id }) => id === page.of) : undefined;
    const kind = page.kind === 'figures' && shown?.kind === 'breakdown' ? 'breakdown' : page.kind;
    return [packWords.kind[kind], shown?.name].filter(Boolean).join(' · ');
  }
}
