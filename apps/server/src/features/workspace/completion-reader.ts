import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  Completions,
  type Books,
  type Completion,
  type CompletionSource,
  type Generation,
  type TextMatch,
} from '@margin-lens/core';
import { currentDocuments } from '../../store/documents';
import type { Moment } from '../../store/store';
import type { TextKeeper } from '../../store/text-keeper';
import type { AskedTexts } from '../../store/text-matches';
import { completionsIn, readDocuments, type WorkspaceModel } from './workspace-model';

/** Completions of revisions that locked versions read, kept at most. */
const KEPT_REVISIONS = 100; // 10 to 1,000

/** What books are completed by, and what tells it apart; undefined where nothing is. */
type CompletedBy = { source: CompletionSource; key: string } | undefined;

interface Ready {
  ledger: Generation['ledger'];
  by: Promise<CompletedBy>;
}

/** Has books read with values that postings lack, as the completions of a moment say, and those that locked versions read. */
export class CompletionReader {
  private readonly frozen = new Map<number, Promise<readonly Completion[]>>();
  private readonly now = new WeakMap<WorkspaceModel, readonly Completion[]>();
  /** What books were last completed by, of each model: the same until lines come or go. */
  private readonly ready = new WeakMap<WorkspaceModel, Ready>();

  constructor(private readonly texts: TextKeeper) {}

  /** @param frozen revisions that locked versions read */
  async complete(
    books: Books,
    moment: Pick<Moment, 'em' | 'revision' | 'generation'>,
    model: WorkspaceModel,
    frozen: readonly number[],
  ): Promise<Books> {
    const by = await this.readyAt(moment, model, frozen);
    return by ? books.completedBy(by.source, by.key) : books;
  }

  /** The same for all who ask while it is being found. */
  private readyAt(
    moment: Pick<Moment, 'em' | 'revision' | 'generation'>,
    model: WorkspaceModel,
    frozen: readonly number[],
  ): Promise<CompletedBy> {
    const { ledger } = moment.generation;
    const known = this.ready.get(model);
    if (known?.ledger === ledger) return known.by;
    const made: Ready = { ledger, by: this.sourceAt(moment, model, frozen) };
    this.ready.set(model, made);
    // whoever comes next asks again
    made.by.catch(() => {
      if (this.ready.get(model) === made) this.ready.delete(model);
    });
    return made.by;
  }

  private async sourceAt(
    { em, revision, generation }: Pick<Moment, 'em' | 'revision' | 'generation'>,
    model: WorkspaceModel,
    frozen: readonly number[],
  ): Promise<CompletedBy> {
    const now = this.now.get(model) ?? model.completions;
    this.now.set(model, now);
    const then = new Map<number, readonly Completion[]>();
    for (const at of frozen) then.set(at, await this.of(em, at));
    if ([now, ...then.values()].every((each) => each.length === 0)) return undefined;
    const at = (read?: number) => (read === undefined ? now : (then.get(read) ?? now));
    const ready = new Map<number | undefined, (entity: number) => readonly TextMatch[]>();
    for (const read of [undefined, ...then.keys()])
      ready.set(read, await this.matching({ revision: read ?? revision, generation }, model, rulesOf(at(read), model)));
    const matching = (entity: number, read?: number) => (ready.get(read) ?? ready.get(undefined)!)(entity);
    const all = [...now, ...[...then.values()].flat()];
    // a text that changes moves no balance
    const byText = all.some(({ rules }) => rules.some(({ text }) => text !== undefined)) ? generation.ledger : 0;
    return { source: { all, at, matching }, key: JSON.stringify([now, [...then], byText]) };
  }

  /** Has the lines ready, by entity, whose text holds one that some rules name. */
  async matching(
    { revision, generation }: Pick<Moment, 'revision' | 'generation'>,
    { entities, accounts, accountIds }: WorkspaceModel,
    rules: Completions,
  ): Promise<(entity: number) => readonly TextMatch[]> {
    if (rules.texts.length === 0) return () => [];
    const read = rules.accountsByText.map((place) => accountIds.get(accounts[place]!.number)!);
    const asked = (entity: number): AskedTexts => ({
      ...{ entity, accounts: read, texts: rules.texts, dimensions: rules.dimensionsByText, revision },
      moved: Math.min(revision, generation.ledger),
    });
    await this.texts.prepare(entities.map(({ id }) => asked(id)));
    // held here, whatever is let go of there
    const found = new Map(entities.map(({ id }) => [id, this.texts.matches(asked(id))]));
    return (entity) => found.get(entity) ?? [];
  }

  /** Completions as a locked version reads them: what held at a revision stays so. */
  private of(em: EntityManager, revision: number): Promise<readonly Completion[]> {
    const known = this.frozen.get(revision);
    if (known) return known;
    const read = currentDocuments(em, ['completion'], revision).then((rows) =>
      completionsIn(readDocuments(rows).documents),
    );
    if (this.frozen.size >= KEPT_REVISIONS) this.frozen.clear();
    this.frozen.set(revision, read);
    read.catch(() => this.frozen.delete(revision));
    return read;
  }
}

const rulesOf = (completions: readonly Completion[], { accounts, trees }: WorkspaceModel) =>
  new Completions(completions, accounts, trees);
