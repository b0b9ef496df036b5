import type { CubeKeeper } from '../../store/cube-keeper';
import { debitsOfLines } from '../../store/lines';
import type { ReadingThread } from '../../store/reading-thread';

interface Sum {
  revision: number;
  debit: number;
}

/**
 * The debits of entities as the journal lines give them: all lines are read once, and from then on those that come and
 * go.
 */
export class LineSums {
  private readonly sums = new Map<number, Promise<Sum>>();

  constructor(
    private readonly reading: ReadingThread,
    private readonly cubes: CubeKeeper,
  ) {}

  /** The debits of an entity, by its id, at a revision to which the cube was brought. */
  async debits(entity: number, revision: number): Promise<number> {
    const held = await this.sums.get(entity);
    if (held?.revision === revision) return held.debit;
    const moved = held && this.movedBetween(entity, held.revision, revision);
    const debit = moved === undefined ? debitsOfLines(this.reading, entity, revision) : held!.debit + moved;
    const sum = Promise.resolve(debit).then((known) => ({ revision, debit: known }));
    this.sums.set(entity, sum);
    sum.catch(() => this.sums.delete(entity));
    return (await sum).debit;
  }

  /** What lines moved the debits by; undefined where the steps from one revision to the other are not known. */
  private movedBetween(entity: number, from: number, to: number): number | undefined {
    let [at, moved] = [from, 0];
    for (const step of this.cubes.steps) {
      if (step.from !== at || step.to > to) continue;
      at = step.to;
      moved += step.debits.get(entity) ?? 0;
    }
    return at === to ? moved : undefined;
  }
}
