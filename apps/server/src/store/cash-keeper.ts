import type Database from 'better-sqlite3';
import type { DerivedCash } from '@margin-lens/core';
import type { KeptThread } from '../base/kept-thread';
import { OneByOne } from '../base/one-by-one';
import { derivedCash, type AccountsForCash, type AskedCash } from './cash-lines';
import type { CubeQuestion } from './cube-worker';

/** Entities and revisions that are held. */
const KEPT = 200; // 20 to 2,000

/** An entity, and the revisions that are read and that last moved journals and accounts up to there. */
export interface AskedOfKeeper extends AskedCash {
  moved: string;
}

/** Holds what the cash basis of entities moves, as long as neither journals nor accounts move. */
export class CashKeeper {
  private readonly held = new Map<string, DerivedCash>();
  /** The next waits for the one before, which may derive what it would. */
  private readonly deriving = new OneByOne();

  constructor(private readonly thread: KeptThread<CubeQuestion>) {}

  /** Derives in a thread what is not held, so that it is there when it is asked for. */
  prepare(asked: readonly AskedOfKeeper[], accounts: AccountsForCash): Promise<void> {
    return this.deriving.do(() => this.deriveMissing(asked, accounts));
  }

  private async deriveMissing(asked: readonly AskedOfKeeper[], accounts: AccountsForCash): Promise<void> {
    const missing = asked.filter((each) => !this.held.has(keyOf(each)));
    if (missing.length === 0) return;
    const found = await this.thread.ask<DerivedCash[]>({ do: 'cash', asked: missing, accounts });
    missing.forEach((each, at) => this.hold(each, found[at]!));
  }

  /** What is derived for an entity, from the connection where it is not held. */
  derived(db: Database.Database, asked: AskedOfKeeper, accounts: AccountsForCash): DerivedCash {
    return this.held.get(keyOf(asked)) ?? this.hold(asked, derivedCash(db, asked, accounts));
  }

  private hold(asked: AskedOfKeeper, derived: DerivedCash): DerivedCash {
    if (this.held.size >= KEPT) this.held.delete(this.held.keys().next().value!);
    this.held.set(keyOf(asked), derived);
    return derived;
  }
}

const keyOf = ({ entity, moved }: AskedOfKeeper): string => `${entity}.${moved}`;
