import { attributesOf } from '../account/combination';
import { BROUGHT_FORWARD } from '../cube/combinations';
import type { LineColumns } from '../cube/line-columns';
import { allRuns, type Runs } from '../cube/segment';
import { SegmentBuilder } from '../cube/segment-builder';
import { LayeredBalances, type BalanceRows, type Balances } from './balances';
import type { BookMasters } from './book-masters';
import { CompletedCombinations } from './completed-combinations';
import { Completions, holdsText, type Completed, type Completion } from './completion';
import { kept } from './kept';
import { ACTUAL_ID } from './version-rows';

/** A journal line whose text holds one that a rule names. Units: as stored. */
export interface TextMatch {
  id: number;
  /** As stored. */
  account: number;
  period: number;
  combination: number;
  /** Basis × 3 + entry kind. */
  kind: number;
  debit: number;
  credit: number;
  quantity: number;
  description: string;
}

/** What postings without a value are read with, at a moment. */
export interface CompletionSource {
  /** Those of now and of all revisions that locked versions read. */
  all: readonly Completion[];
  /** Those that hold now, or that held at a revision that a locked version reads. */
  at(revision?: number): readonly Completion[];
  /** Lines of an entity, as stored, whose text holds one that a rule of the moment names. */
  matching(entity: number, revision?: number): readonly TextMatch[];
}

/** Journal lines that are read with some values, of accounts as stored. */
export interface LinesRead {
  /** Combinations that count, as posted; of accounts that are not named below. */
  combinations: readonly number[];
  /** Accounts with rules of their own, and the combinations that count of them. */
  of: readonly { accounts: readonly number[]; combinations: readonly number[] }[];
  /** Lines that do not count for all that, and those that count beside. */
  without: readonly number[];
  with: readonly number[];
}

/** Lines in combinations as they were posted. */
export const linesAsPosted = (combinations: readonly number[]): LinesRead => ({
  ...{ combinations, of: [], without: [], with: [] },
});

/** Whether a journal line is among those that are read. */
export function isReadIn({ combinations, of, without, with: beside }: LinesRead) {
  const ofAccount = new Map(
    of.flatMap((each) => each.accounts.map((account) => [account, new Set(each.combinations)])),
  );
  const [others, out, also] = [new Set(combinations), new Set(without), new Set(beside)];
  return ({ id, account, combination }: { id: number; account: number; combination: number }): boolean =>
    also.has(id) || ((ofAccount.get(account) ?? others).has(combination) && !out.has(id));
}

/** What is kept of balances that are read with values they lack, for as long as master data and rules do not move. */
export class KeptCompletion {
  readonly runs = new Map<string, Runs>();
  readonly compiled = new WeakMap<readonly Completion[], CompiledCompletions>();
  readonly combinations: CompletedCombinations;

  constructor(posted: Balances['combinations']) {
    this.combinations = new CompletedCombinations(posted);
  }
}

interface CompiledCompletions {
  completions: Completions;
  /** What combinations of an account become, by its id, where no text of a posting says otherwise. */
  plain: Map<number, Map<number, number>>;
}

/** Versions and entities that are kept completed. */
const KEPT_RUNS = 300; // 20 to 2,000

/**
 * Balances in which postings without a value of a dimension are read with one, by rules: another combination, all else as it
 * was posted. They add up to the balances that they are made from. Figures of versions stand as they are.
 */
export class CompletedBalances extends LayeredBalances {
  private readonly placeOf: ReadonlyMap<number, number>;

  constructor(
    base: Balances,
    private readonly masters: Pick<BookMasters, 'accounts' | 'accountIds' | 'trees'>,
    private readonly source: CompletionSource,
    private readonly kept: KeptCompletion,
  ) {
    super(base);
    this.placeOf = new Map(masters.accounts.map(({ number }, at) => [masters.accountIds.get(number)!, at]));
  }

  get combinations(): CompletedCombinations {
    return this.kept.combinations;
  }

  cubeAt(revision?: number): BalanceRows {
    const cube = this.base.cubeAt(revision);
    return {
      movedAt: (version, entity) => cube.movedAt(version, entity),
      rows: (version, entity) => {
        if (version !== ACTUAL_ID || this.source.at(revision).length === 0) return cube.rows(version, entity);
        const key = [entity, cube.movedAt(version, entity), revision].join('|');
        return kept(this.kept.runs, key, KEPT_RUNS, () => this.rows(cube.rows(version, entity), entity, revision));
      },
    };
  }

  /** All that say what postings are read with, now or in a locked version. */
  get completions(): readonly Completion[] {
    return this.source.all;
  }

  /** Lines of an account, as stored, in the combinations that they are read with. */
  linesAsRead(lines: LineColumns, entity: number, account: number, revision?: number): LineColumns {
    const byText = new Map(this.source.matching(entity, revision).map((match) => [match.id, match]));
    const combination = lines.combination.map((posted, line) => {
      const match = byText.get(lines.id[line]!);
      return match ? this.read(match, revision) : this.readPlainly(account, posted, revision);
    });
    return { ...lines, combination };
  }

  /** The journal lines of an entity that are read in combinations which count. */
  linesRead(entity: number, counts: (combination: number) => boolean, revision?: number): LinesRead {
    const posted = Array.from({ length: this.base.combinations.last }, (_, at) => at + 1);
    const { accounts, accountIds } = this.masters;
    const of = this.compiled(revision).completions.alike.map((places) => {
      const ids = places.map((at) => accountIds.get(accounts[at]!.number)!);
      return { accounts: ids, combinations: posted.filter((id) => counts(this.readPlainly(ids[0]!, id, revision))) };
    });
    const moved = this.source
      .matching(entity, revision)
      .map((match) => ({
        id: match.id,
        was: counts(this.readPlainly(match.account, match.combination, revision)),
        is: counts(this.read(match, revision)),
      }))
      .filter(({ was, is }) => was !== is);
    return {
      ...{ combinations: [], of },
      without: moved.flatMap(({ id, is }) => (is ? [] : id)),
      with: moved.flatMap(({ id, is }) => (is ? id : [])),
    };
  }

  /** The values that a posting is read with beside its own. @param account as stored */
  completedOf(account: number, combination: number, description: string, revision?: number): Completed[] {
    if (combination === BROUGHT_FORWARD) return [];
    const attributes = attributesOf(this.base.combinations.textOf(combination));
    const hasText = (text: string) => holdsText(description, text);
    return this.compiled(revision).completions.of(this.placeOf.get(account) ?? -1, attributes, hasText);
  }

  private rows(runs: Runs, entity: number, revision: number | undefined): Runs {
    const { segment } = runs;
    const builder = new SegmentBuilder();
    for (let run = runs.first; run < runs.end; run++) {
      const account = segment.account[run]!;
      for (let row = segment.firstRow[run]!; row < segment.firstRow[run + 1]!; row++)
        builder.add(
          ...([ACTUAL_ID, entity, account, segment.period[row]!] as const),
          ...([this.readPlainly(account, segment.combination[row]!, revision), segment.kind[row]!] as const),
          ...([segment.debit[row]!, segment.credit[row]!, segment.quantity[row]!, segment.count[row]!] as const),
        );
    }
    for (const match of this.source.matching(entity, revision)) {
      const { account, period, kind, debit, credit, quantity } = match;
      const [from, to] = [this.readPlainly(account, match.combination, revision), this.read(match, revision)];
      if (from === to) continue;
      builder.add(ACTUAL_ID, entity, account, period, from, kind, -debit, -credit, -quantity, 0);
      builder.add(ACTUAL_ID, entity, account, period, to, kind, debit, credit, quantity, 0);
    }
    return allRuns(builder.finish());
  }

  /** What a combination of an account is read as where no text of a posting says otherwise. */
  private readPlainly(account: number, combination: number, revision: number | undefined): number {
    const { plain } = this.compiled(revision);
    const ofAccount = plain.get(account) ?? new Map<number, number>();
    plain.set(account, ofAccount);
    const known = ofAccount.get(combination);
    if (known !== undefined) return known;
    const read = this.completed(combination, this.completedOf(account, combination, '', revision));
    ofAccount.set(combination, read);
    return read;
  }

  private read({ account, combination, description }: TextMatch, revision: number | undefined): number {
    return this.completed(combination, this.completedOf(account, combination, description, revision));
  }

  private completed(combination: number, completed: readonly Completed[]): number {
    return completed.length === 0 ? combination : this.combinations.with(combination, completed);
  }

  private compiled(revision: number | undefined): CompiledCompletions {
    const rules = this.source.at(revision);
    const known = this.kept.compiled.get(rules);
    if (known) return known;
    const made = { completions: new Completions(rules, this.masters.accounts, this.masters.trees), plain: new Map() };
    this.kept.compiled.set(rules, made);
    return made;
  }
}
