import type { NewAdjustment } from '@margin-lens/contract';
import {
  codeRanges,
  digitsOf,
  formatMinor,
  isInRange,
  translator,
  type CodeRange,
  type DocumentMatch,
  type FiscalPeriod,
  type RateTable,
  type Scope,
  type ScopeEntity,
} from '@margin-lens/core';
import { pairWords } from '../../base/group-words';
import { accountsAgainst, type AccountPair, type PairLinesQuery } from '../../store/pair-lines';
import { nameOf, type OpenPair } from './pair-lines-of';

/** Entries that would make documents of a pair meet; what they need of the books is read once for all of them. */
export class PairEntries {
  private readonly usual = new Map<string, readonly AccountPair[]>();
  private readonly booked = new Map<string, ReadonlyMap<string, number>>();
  private readonly numbers: ReadonlyMap<number, string>;

  constructor(
    private readonly pair: OpenPair,
    private readonly matches: readonly DocumentMatch[],
    private readonly rates: RateTable,
  ) {
    const { accountIds } = pair.looked.snapshot.model;
    this.numbers = new Map([...accountIds].map(([number, id]) => [id, number]));
  }

  /**
   * The adjustment that makes a document meet: in the books of the one that lacks it, or where amounts differ of the one that
   * owes. It goes back in the next period, in which the books are to have the document themselves.
   */
  draftOf(match: DocumentMatch): NewAdjustment | null {
    const { pair } = this;
    const { looked, rule } = pair;
    const { state, own, theirs, currency } = match;
    if (rule.kind !== 'balances' || state === 'other_document' || state === 'meets') return null;
    const isOwn = state === 'alone' ? own === 0 : own < 0;
    const [entity, partner] = isOwn ? [pair.one, pair.other] : [pair.other, pair.one];
    const { currency: books } = looked.snapshot.model.entity(entity)!;
    const amount = -(own + theirs);
    const local = inCurrency(amount, currency, books, this.rates, looked.at);
    if (local === undefined) return null;
    const [account, against] = this.accountsOf(match, isOwn);
    const { document, date, text } = match;
    const [from, to] = [looked.at.start, looked.at.end];
    const line = (number: string, minor: number, foreign: number) => ({
      ...{ account: number, description: text, partner, document, values: {} },
      debit: minor > 0 ? formatMinor(minor, books.digits) : '',
      credit: minor < 0 ? formatMinor(-minor, books.digits) : '',
      ...(currency === books.code
        ? { currency: '', currencyAmount: '' }
        : { currency, currencyAmount: formatMinor(foreign, digitsOf(currency)) }),
    });
    return {
      ...{ entity, date: from <= date && date <= to ? date : to, period: '', reverses: true },
      reason: pairWords.entry(document || text, nameOf(pair, partner)),
      lines: [line(account, local, amount), line(against, -local, -amount)],
    };
  }

  /**
   * Numbers of the accounts of an entry: those in which the entity has such documents most often, and against them, where a
   * rule says what meets the income or expense that the other side booked the document in, one of these. Empty where nothing
   * is known.
   */
  private accountsOf({ own, theirs, document }: DocumentMatch, isOwn: boolean): [string, string] {
    const { pair } = this;
    const { snapshot, scope } = pair.looked;
    const [lacks, has] = isOwn ? [pair.own, pair.theirs] : [pair.theirs, pair.own];
    const sign = own + theirs > 0 ? 1 : -1;
    const usual = this.usualOf(lacks, sign === 1 ? -1 : 1);
    const codes = codesThatMeet(scope, this.numberOf(this.bookedOf(has, sign).get(document)));
    const meets = (number: string) => codes.some((range) => isInRange(range, number));
    const fits = usual.find(({ against }) => meets(this.numberOf(against)));
    const first = snapshot.model.accounts.find(({ number }) => meets(number))?.number;
    const found = fits ?? usual[0];
    return [
      this.numberOf(found?.account),
      fits ? this.numberOf(fits.against) : (first ?? this.numberOf(found?.against)),
    ];
  }

  private numberOf(id: number | undefined): string {
    return this.numbers.get(id ?? -1) ?? '';
  }

  /** In which accounts a side has what it books on one side of its accounts, most often first. */
  private usualOf(side: PairLinesQuery, sign: 1 | -1): readonly AccountPair[] {
    const key = `${side.entity} ${sign}`;
    const { db, revision } = this.pair.looked.snapshot;
    const found = this.usual.get(key) ?? accountsAgainst(db, side, revision, { sign });
    this.usual.set(key, found);
    return found;
  }

  /** What stands against each of the documents in the books of the side that has it. */
  private bookedOf(side: PairLinesQuery, sign: 1 | -1): ReadonlyMap<string, number> {
    const key = `${side.entity} ${sign}`;
    const known = this.booked.get(key);
    if (known) return known;
    const { db, revision } = this.pair.looked.snapshot;
    const documents = this.matches.map(({ document }) => document).filter(Boolean);
    const found = new Map<string, number>();
    for (const { document, against } of accountsAgainst(db, side, revision, { sign, documents }))
      if (!found.has(document)) found.set(document, against);
    this.booked.set(key, found);
    return found;
  }
}

/** What meets an account of one side by a rule of the group; none where no rule reads it. */
function codesThatMeet({ consolidated }: Scope, number: string): CodeRange[] {
  if (number === '') return [];
  const reads = (codes: string) => codeRanges(codes)?.some((range) => isInRange(range, number)) ?? false;
  for (const rule of consolidated?.facts.rules ?? []) {
    if (rule.group !== consolidated!.group || rule.kind === 'dividends') continue;
    if (reads(rule.accounts)) return codeRanges(rule.partnerAccounts) ?? [];
    if (reads(rule.partnerAccounts)) return codeRanges(rule.accounts) ?? [];
  }
  return [];
}

/** At the closing rate of a period; undefined where there is none. */
function inCurrency(
  amount: number,
  from: string,
  to: ScopeEntity['currency'],
  rates: RateTable,
  at: FiscalPeriod,
): number | undefined {
  if (from === to.code) return amount;
  const rate = rates.rate('closing', from, to.code, at);
  return rate && translator(rate, digitsOf(from), to.digits).rounded(amount);
}
