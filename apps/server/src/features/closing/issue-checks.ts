import type { ClosingQuery, IssueCheck, IssueChecksView } from '@margin-lens/contract';
import { isOpenBalance, periodOfAsAt, type ScopeEntity } from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import { issueCheckWords } from '../../base/words';
import type { ReadingThread } from '../../store/reading-thread';
import { booksCheck } from '../checks/books-check';
import { provedBalances } from '../evidence/evidence-view';
import { keptEvidence } from '../evidence/kept-evidence';
import { exceptionsView } from '../exceptions/exceptions-view';
import { readinessView } from '../groups/readiness-view';
import { closedPeriods } from '../periods/closed-periods';
import { remarksView } from '../remarks/remarks-service';
import type { TieOutsService } from '../tie-outs/tie-outs-service';
import { heldEntities, openPeriod, openScope } from '../workspace/open-scope';
import { firstStatement } from '../workspace/first-statement';
import type { Snapshot } from '../workspace/snapshot';
import { closingView } from './closing-view';
import { closingList } from './kept-closing';

/** What proves the books that figures stand on. */
export interface Proofs {
  reading: ReadingThread;
  tieOuts: TieOutsService;
}

/** Versions in which nothing is to be expected any more. */
const SETTLED: ReadonlySet<string> = new Set(['approved', 'locked']);

/** Lines that are said of one check. */
const SAID = 4;

/** A check of which nobody is said yet to look after it. */
export type Check = Omit<IssueCheck, 'owner'>;

export const check = (kind: Check['check'], path: string, open: readonly string[]): Check => ({
  ...{ check: kind, name: issueCheckWords.name[kind], isDone: open.length === 0, path, page: '' },
  says: open.length > SAID ? [...open.slice(0, SAID), issueCheckWords.more(open.length - SAID)] : [...open],
});

/**
 * Whether a month can be issued as it stands: what is so of the books and of the checklist, of the version that it is held
 * against, and of the variances of the statement that is read first.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function issueChecks(snapshot: Snapshot, proofs: Proofs, query: ClosingQuery): Promise<IssueChecksView> {
  const ofBooks = await checksOfBooks(snapshot, proofs, query);
  return withOwners(snapshot, [...ofBooks, ...(await checksOfVariances(snapshot, query))]);
}

/** The checks, with who looks after each. */
export async function withOwners({ em }: Snapshot, checks: readonly Check[]): Promise<IssueChecksView> {
  const { owners } = await closingList(em);
  return { checks: checks.map((each) => ({ ...each, owner: owners[each.check] ?? '' })) };
}

/** Checks of what all figures of a month stand on, whatever is read of them. */
export async function checksOfBooks(
  snapshot: Snapshot,
  { reading, tieOuts }: Proofs,
  { scope: code, as_at }: ClosingQuery,
): Promise<Check[]> {
  const scope = openScope(snapshot.filled, snapshot.viewer, code);
  const at = openPeriod(scope, as_at);
  const entities = heldEntities(scope, at).filter(({ code: each }) => maySee(snapshot.viewer, each));
  const asked = { scope: code, as_at };
  const ties = await tieOuts.view(snapshot, asked);
  const off = ties.ties.filter(({ agrees }) => !agrees).length;
  const ofBooks = snapshot.filled.group(code)
    ? await ofGroup(snapshot, reading, asked)
    : await ofEntity(snapshot, reading, asked, at.key);
  return [
    ...ofBooks,
    check('tie_outs', '/tie-outs', off > 0 ? [issueCheckWords.off(off, ties.ties.length)] : []),
    await ofEvidence(snapshot, entities, asked),
    await ofTasks(snapshot, asked),
    await ofClosing(snapshot, entities, as_at),
  ];
}

async function ofEntity(
  snapshot: Snapshot,
  reading: ReadingThread,
  asked: ClosingQuery,
  month: string,
): Promise<Check[]> {
  const entity = snapshot.filled.entity(asked.scope)!;
  const hasPostings = snapshot.postedPeriods(entity).some(({ key }) => key === month);
  const { findings } = await booksCheck(snapshot, reading, asked);
  const open = findings.filter(({ seen }) => !seen).length;
  return [
    check('delivered', '/deliveries', hasPostings ? [] : [issueCheckWords.nothingPosted(entity.name)]),
    check('books', '/books-check', open > 0 ? [issueCheckWords.findings(open)] : []),
  ];
}

async function ofGroup(snapshot: Snapshot, reading: ReadingThread, { scope, as_at }: ClosingQuery): Promise<Check[]> {
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

/** Balances that nothing from outside shows yet, or that differ from it; a line an entity. */
async function ofEvidence(
  snapshot: Snapshot,
  entities: readonly ScopeEntity[],
  { scope, as_at }: ClosingQuery,
): Promise<Check> {
  const books = await snapshot.books();
  const kept = await keptEvidence(snapshot.em, new Set(entities.map(({ code }) => code)));
  const open = entities.flatMap(({ code, name }) => {
    const left = provedBalances(books, snapshot.filled.entity(code)!, as_at, kept).filter(isOpenBalance);
    const differing = left.filter(({ state }) => state === 'differs').length;
    if (left.length === 0) return [];
    return [issueCheckWords.evidence(scope === code ? '' : name, left.length - differing, differing)];
  });
  return check('evidence', '/evidence', open);
}

/** The own checklist: what is late first. */
async function ofTasks(snapshot: Snapshot, asked: ClosingQuery): Promise<Check> {
  const { tasks, scope } = await closingView(snapshot, asked);
  const open = tasks.filter(({ done }) => !done).sort((a, b) => Number(b.isLate) - Number(a.isLate));
  const lines = open.map(({ name, of, owner, due, isLate }) =>
    issueCheckWords.task(of.code === scope.code ? name : `${of.name}: ${name}`, owner, due, isLate),
  );
  return check('tasks', '/month-end', lines);
}

/** Whether the month takes postings yet, each entity by the periods of its own calendar. */
async function ofClosing(snapshot: Snapshot, entities: readonly ScopeEntity[], asAt: string): Promise<Check> {
  const { closed } = await closedPeriods(snapshot);
  const open = entities.filter(({ code, calendar }) => {
    const period = periodOfAsAt(calendar.calendar, asAt)?.key;
    return period !== undefined && !closed.some((row) => row.entity === code && row.period === period);
  });
  return check(
    'closed',
    '/periods',
    open.length > 0 ? [issueCheckWords.takesPostings(open.map(({ name }) => name))] : [],
  );
}

/** Versions that figures compare with or go on with, none of which may change any more. */
export function checkOfVersions({ model }: Snapshot, codes: readonly string[]): Check {
  const open = [...new Set(codes)].flatMap((code) => {
    const version = model.version(code);
    return version && !SETTLED.has(version.state) ? [issueCheckWords.unsettled(version.name, version.state)] : [];
  });
  return check('versions', '/versions', open);
}

/** The version that the statement read first is held against, and its variances without a remark. */
async function checksOfVariances(snapshot: Snapshot, { scope, as_at }: ClosingQuery): Promise<Check[]> {
  const statement = firstStatement(snapshot.filled);
  if (statement === undefined) return [];
  const view = await exceptionsView(snapshot, { scope, as_at, statement });
  const { remarks } = await remarksView(snapshot, { scope, as_at, statement });
  const explained = new Set(remarks.map(({ row }) => row));
  const left = view.exceptions.filter(({ id }) => !explained.has(id)).length;
  return [
    checkOfVersions(snapshot, view.against ? [view.against.code] : []),
    check('exceptions', '/exceptions', left > 0 ? [issueCheckWords.toExplain(left, view.statement.name)] : []),
  ];
}
