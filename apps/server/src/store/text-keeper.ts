import type { TextMatch } from '@margin-lens/core';
import type { KeptThread } from '../base/kept-thread';
import type { CubeQuestion } from './cube-worker';
import type { AskedTexts } from './text-matches';

/** Entities whose lines with some texts are held. */
const KEPT_ENTITIES = 500; // 60 to 5,000

/** Holds the journal lines whose text holds one that is looked for, as long as their entity does not move. */
export class TextKeeper {
  private readonly held = new Map<string, readonly TextMatch[]>();

  constructor(private readonly thread: KeptThread<CubeQuestion>) {}

  /** Reads in a thread what is not held of entities at a revision, so that it is there when it is asked for. */
  async prepare(asked: readonly AskedTexts[]): Promise<void> {
    const missing = asked.filter((each) => !this.held.has(keyOf(each)));
    const [first] = missing;
    if (!first) return;
    const { accounts, texts, dimensions, revision } = first;
    const entities = missing.map(({ entity }) => entity);
    const question = { do: 'texts' as const, entities, revision, accounts, texts, dimensions };
    const read = await this.thread.ask<TextMatch[][]>(question);
    missing.forEach((each, at) => this.held.set(keyOf(each), read[at]!));
    const wanted = new Set(asked.map(keyOf));
    for (const key of this.held.keys()) {
      if (this.held.size <= KEPT_ENTITIES) return;
      if (!wanted.has(key)) this.held.delete(key);
    }
  }

  /** What was read before. */
  matches(asked: AskedTexts): readonly TextMatch[] {
    return this.held.get(keyOf(asked)) ?? [];
  }
}

const keyOf = ({ entity, accounts, texts, dimensions, moved }: AskedTexts): string =>
  [entity, moved, accounts.join(), JSON.stringify([texts, dimensions])].join('|');
