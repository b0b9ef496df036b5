import type { TextMatch } from '@margin-lens/core';
import type { KeptThread } from '../base/kept-thread';
import type { CubeQuestion } from './cube-worker';
import type { AskedTexts, FoundBefore } from './text-matches';

/** Entities whose lines with some texts are held. */
const KEPT_ENTITIES = 500; // 60 to 5,000

/** Holds the journal lines whose text holds one that is looked for, as long as their entity does not move. */
export class TextKeeper {
  private readonly held = new Map<string, readonly TextMatch[]>();
  /** What was found last of an entity, from which the next is found without reading all of its lines again. */
  private readonly latest = new Map<string, FoundBefore>();

  constructor(private readonly thread: KeptThread<CubeQuestion>) {}

  /** Reads in a thread what is not held of entities at a revision, so that it is there when it is asked for. */
  async prepare(asked: readonly AskedTexts[]): Promise<void> {
    const missing = asked.filter((each) => !this.held.has(keyOf(each)));
    const [first] = missing;
    if (!first) return;
    const { accounts, texts, dimensions, revision } = first;
    const texted = { accounts, texts, dimensions, revision };
    const beforeOf = (each: AskedTexts) => {
      const before = this.latest.get(textsOf(each));
      return before && before.revision <= each.revision ? before : undefined;
    };
    const unread = missing.filter((each) => !beforeOf(each));
    const moved = missing.filter((each) => beforeOf(each));
    if (unread.length > 0) {
      const entities = unread.map(({ entity }) => entity);
      this.hold(unread, await this.thread.ask<TextMatch[][]>({ do: 'texts', entities, ...texted }));
    }
    if (moved.length > 0) {
      const found = moved.map((each) => beforeOf(each)!);
      this.hold(moved, await this.thread.ask<TextMatch[][]>({ do: 'texts_since', found, ...texted }));
    }
    this.letGo(new Set(asked.map(keyOf)));
  }

  /** What was read before. */
  matches(asked: AskedTexts): readonly TextMatch[] {
    return this.held.get(keyOf(asked)) ?? [];
  }

  private hold(asked: readonly AskedTexts[], read: readonly TextMatch[][]): void {
    asked.forEach((each, at) => {
      const { entity, revision } = each;
      const before = this.latest.get(textsOf(each));
      this.held.set(keyOf(each), read[at]!);
      if (!before || before.revision <= revision)
        this.latest.set(textsOf(each), { entity, revision, matches: read[at]! });
    });
  }

  /** Lets go of the oldest that are not wanted now, where there are too many. */
  private letGo(wanted: ReadonlySet<string>): void {
    for (const key of this.held.keys()) {
      if (this.held.size <= KEPT_ENTITIES) break;
      if (!wanted.has(key)) this.held.delete(key);
    }
    for (const key of this.latest.keys()) {
      if (this.latest.size <= KEPT_ENTITIES) return;
      this.latest.delete(key);
    }
  }
}

/** The same for an entity as long as the same is looked for. */
const textsOf = ({ entity, accounts, texts, dimensions }: AskedTexts): string =>
  [entity, accounts.join(), JSON.stringify([texts, dimensions])].join('|');

const keyOf = (asked: AskedTexts): string => `${textsOf(asked)}|${asked.moved}`;
