import { setImmediate as nextTurn } from 'node:timers/promises';
import type { EliminationsQuery, PairsView, Readiness, StructureView } from '@margin-lens/contract';
import {
  dayInWords,
  exactFigure,
  isFlow,
  minorOf,
  missingInWords,
  monthsBetween,
  periodName,
  ratesNeeded,
  slot,
  WHOLE_BOOKS,
  type Books,
  type Missing,
  type ScopeMember,
} from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import { readinessWords } from '../../base/group-words';
import type { ReadingThread } from '../../store/reading-thread';
import { booksCheck } from '../checks/books-check';
import type { Snapshot } from '../workspace/snapshot';
import { gapsOf } from './eliminations-view';
import { openGroup, type OpenGroup } from './open-group';
import { pairsView } from './pairs-view';
import { structureView } from './structure-view';

/** Months that the results of an associate may be older than the group's. @source IAS 28.34 */
const MONTHS_APART = 3;

type Entity = Readiness['entities'][number];
type Step = Entity['steps'][number];
type Finding = Readiness['findings'][number];

/**
 * How far a group is at the end of a period: whether each entity has delivered, is checked, agrees with the others, is
 * translated and counts; and what stands in the way, with whom it concerns.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function readinessView(
  snapshot: Snapshot,
  reading: ReadingThread,
  code: string,
  query: EliminationsQuery,
): Promise<Readiness> {
  const looked = openGroup(snapshot, code, query);
  const { scope, at } = looked;
  const structure = structureView(snapshot, code, query.as_at);
  const { pairs } = await pairsView(snapshot, code, query);
  const books = await snapshot.books();
  const entities: Entity[] = [];
  const findings: Finding[] = [
    ...structure.notes.map((says): Finding => ({ kind: 'owners', says, scope: code })),
    ...shareFindings(looked, structure),
    ...rateFindings(looked, books),
    ...pairFindings(looked, pairs),
    ...stockFindings(looked),
    ...gapsOf(books.ofScope(scope).eliminations?.gaps ?? [], at).map((says): Finding => ({
      kind: 'eliminations',
      says,
      scope: code,
    })),
  ];
  for (const held of structure.entities) {
    const looking = new EntityReadiness(looked, books, held);
    entities.push({ code: held.code, name: held.name, steps: await looking.steps(reading, pairs) });
    findings.push(...looking.findings);
    await nextTurn(); // others are answered in between
  }
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    ...{ entities, hidden: structure.hidden, findings },
  };
}

const money = (amount: number, { code, digits }: ScopeMember['entity']['currency']) =>
  `${exactFigure({ amount, unit: { kind: 'currency', code, digits } })} ${code}`;

/** Shares of which something is not said that their consolidation needs. */
function shareFindings({ scope, at, snapshot }: OpenGroup, { shares, entities }: StructureView): Finding[] {
  const nameOf = (entity: string) => snapshot.model.entity(entity)?.name ?? entity;
  const held = new Set(entities.map(({ code }) => code));
  return shares
    .filter(({ investee, from, lacks }) => held.has(investee) && from <= at.end && lacks.length > 0)
    .map(({ investor, investee, from, lacks }) => ({
      kind: 'owners',
      says: readinessWords.share(nameOf(investor), nameOf(investee), dayInWords(from), lacks),
      scope: scope.code,
    }));
}

/** Rates that are missing up to the period, one line a currency. */
function rateFindings({ scope, at }: OpenGroup, books: Books): Finding[] {
  const bySource = new Map(scope.members.map(({ entity }) => [entity.code, books.read(entity).holdsData]));
  const needed = ratesNeeded(
    scope,
    at.ordinal,
    books.balances.ratesAt(),
    (entity, period) => bySource.get(entity)![period] === 1,
  );
  const missing = needed.filter(({ quoted }) => quoted === undefined);
  return [...new Set(missing.map(({ from }) => from))].map((currency) => {
    const [first, ...others] = missing.filter(({ from }) => from === currency);
    const { type, from, to, period } = first!;
    const words = missingInWords({
      reason: 'rate_missing',
      origin: { kind: 'rate', type, from, to, period: periodName(period) },
    });
    return { kind: 'rates', says: readinessWords.rate(words, others.length), scope: scope.code };
  });
}

function pairFindings({ scope }: OpenGroup, pairs: PairsView['pairs']): Finding[] {
  return pairs
    .filter(({ state }) => state === 'open' || state === 'untold')
    .map(({ one, other, rule, difference, untold }) => ({
      kind: 'pairs',
      says: readinessWords.pair(
        one.name,
        other.name,
        rule,
        difference === null ? untold : money(difference, scope.currency),
      ),
      scope: scope.code,
    }));
}

/** Goods that are held of one another, as last said, whose margin nobody knows. */
function stockFindings({ scope, at, snapshot }: OpenGroup): Finding[] {
  const nameOf = (entity: string) => snapshot.model.entity(entity)?.name ?? entity;
  return scope
    .consolidated!.facts.stockHeld.filter(({ period, margin }) => period === at.key && margin === '')
    .flatMap(({ holder, seller, amount }): Finding[] => {
      const isSeen = [holder, seller].every((each) => maySee(snapshot.viewer, each));
      const member = scope.members.find(({ entity }) => entity.code === holder);
      if (!isSeen || !member || minorOf(amount, member.entity.currency.digits) === 0) return [];
      const { currency } = member.entity;
      const worth = money(minorOf(amount, currency.digits), currency);
      return [{ kind: 'stock', says: readinessWords.margin(nameOf(holder), nameOf(seller), worth), scope: scope.code }];
    });
}

/** One entity of a group, step by step. */
class EntityReadiness {
  readonly findings: Finding[] = [];
  private readonly member: ScopeMember | undefined;
  private readonly isAssociate: boolean;

  constructor(
    private readonly looked: OpenGroup,
    private readonly books: Books,
    private readonly held: StructureView['entities'][number],
  ) {
    const { members, consolidated } = looked.scope;
    const isIt = ({ entity }: ScopeMember) => entity.code === held.code;
    this.member = members.find(isIt) ?? consolidated!.associates.find(isIt);
    this.isAssociate = held.method === 'equity';
  }

  async steps(reading: ReadingThread, pairs: PairsView['pairs']): Promise<Step[]> {
    const steps = [this.delivered(), await this.checked(reading), this.matched(pairs), this.translated()];
    this.partners();
    return [...steps, this.inGroup(steps)];
  }

  /** Its own period that ends in the one that is looked at; undefined where none does. */
  private get period() {
    const { member, looked } = this;
    return member?.entity.calendar.calendar.periods.findLast(
      ({ ordinal }) => member.endsIn[ordinal] === looked.at.ordinal,
    );
  }

  private delivered(): Step {
    const { period, member } = this;
    const { name } = this.held;
    const month = periodName(period ?? this.looked.at);
    const has = member && period && this.books.read(member.entity).holdsData[period.ordinal] === 1;
    if (has) return { step: 'delivered', state: 'done', says: readinessWords.postings(month) };
    const stated = this.lastStated();
    if (stated) {
      const told = periodName(stated);
      const isLate = monthsBetween(stated.end, this.looked.at.end) > MONTHS_APART;
      if (isLate) this.find('delivery', readinessWords.notStated(name, told));
      return { step: 'delivered', state: isLate ? 'open' : 'done', says: readinessWords.stated(told) };
    }
    this.find('delivery', readinessWords.notDelivered(name, month));
    return { step: 'delivered', state: 'open', says: readinessWords.noPostings(month) };
  }

  /** The last period up to the one that is looked at that an associate without books has said its result of. */
  private lastStated() {
    const { scope, at } = this.looked;
    const told = new Set(
      scope
        .consolidated!.facts.associateResults.filter(({ entity }) => this.isAssociate && entity === this.held.code)
        .map(({ period }) => period),
    );
    return scope.calendar.calendar.periods.findLast(({ key, ordinal }) => ordinal <= at.ordinal && told.has(key));
  }

  private async checked(reading: ReadingThread): Promise<Step> {
    const { period, held } = this;
    if (!period || this.isAssociate) return { step: 'checked', state: 'none', says: '' };
    const asked = { scope: held.code, as_at: period.key };
    const { findings } = await booksCheck(this.looked.snapshot, reading, asked);
    const open = findings.filter(({ seen }) => !seen).length;
    if (open === 0) return { step: 'checked', state: 'done', says: readinessWords.nothingFound };
    this.find('books', readinessWords.found(held.name, open));
    return { step: 'checked', state: 'open', says: readinessWords.foundShort(open) };
  }

  private matched(pairs: PairsView['pairs']): Step {
    const own = pairs.filter(({ one, other }) => one.code === this.held.code || other.code === this.held.code);
    const open = own.filter(({ state }) => state === 'open' || state === 'untold').length;
    if (own.length === 0) return { step: 'matched', state: 'none', says: readinessWords.noPairs };
    return { step: 'matched', state: open === 0 ? 'done' : 'open', says: readinessWords.pairs(open, own.length) };
  }

  private translated(): Step {
    const { member, held, books } = this;
    const { scope, at } = this.looked;
    if (!member || this.isAssociate) return { step: 'translated', state: 'none', says: '' };
    if (member.entity.currency.code === scope.currency.code)
      return { step: 'translated', state: 'none', says: readinessWords.sameCurrency(scope.currency.code) };
    const { problems, accounts } = books.ofScope(scope, { ...WHOLE_BOOKS, member: held.code });
    let missing: Missing | undefined;
    for (let index = 0; problems && !missing && index < accounts.length; index++)
      missing = problems.closingAt(index, at.ordinal);
    if (!missing)
      return { step: 'translated', state: 'done', says: readinessWords.translated(member.entity.currency.code) };
    return { step: 'translated', state: 'open', says: missingInWords(missing) };
  }

  /** It stands in the figures, whatever of it is to be looked at; it does not before it has delivered. */
  private inGroup([delivered]: readonly Step[]): Step {
    const { effective } = this.held;
    const says = readinessWords.method[this.held.method](effective);
    return { step: 'in_group', state: delivered!.state === 'done' ? 'done' : 'open', says };
  }

  /** What it has in accounts between entities without saying with whom: it is not eliminated. */
  private partners(): void {
    const { member, looked, held, books } = this;
    const { period } = this;
    if (!member || !period || this.isAssociate) return;
    const slice = books.read(member.entity, {
      ...WHOLE_BOOKS,
      where: [{ dimension: 'partner', has: 'none', values: [] }],
    });
    const lacking = slice.accounts.flatMap((account, index) => {
      if (!account.isIntercompany || account.partner !== '') return [];
      const amount = slice.closing[slot(slice, index, period.ordinal)]!;
      // what follows from master data needs none
      const follows = account.role !== '' || account.nature === 'equity' || (isFlow(account) && amount === 0);
      return amount === 0 || follows
        ? []
        : [`${account.number} ${account.name}, ${money(amount, member.entity.currency)}`];
    });
    if (lacking.length > 0) this.find('partners', readinessWords.noPartner(held.name, lacking), looked.scope.code);
  }

  private find(kind: Finding['kind'], says: string, scope = this.held.code): void {
    this.findings.push({ kind, says, scope });
  }
}
