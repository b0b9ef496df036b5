import { parentPort } from 'node:worker_threads';
import type { InspectionView, LookAgain, SurveyView, UnmatchedView } from '@margin-lens/contract';
import {
  additionTables,
  buildCalendar,
  NOTHING_NEW,
  periodsOfRule,
  STARTING_ENTITY,
  stillNew,
  type Additions,
  type CalendarRule,
  type FiscalCalendar,
  type Issue,
  type Mapping,
  type StartingBooks,
} from '@margin-lens/core';
import { AppError, appError } from '../../base/app-error';
import { classifyNew } from '../foreign/classify-new';
import { codesOfBooks, foreignContext, knownCodes } from '../foreign/foreign-context';
import { digestOfFile, inOwnWords, openForeign, withTables } from '../foreign/foreign-source';
import { inspectFile } from '../foreign/inspect-file';
import { startingContext, startingSource } from '../foreign/starting-source';
import { surveyFile, wideCalendar } from '../foreign/survey-file';
import { keptMappings } from '../foreign/kept-mappings';
import { issueView } from '../statements/issue-view';
import { databaseError } from '../../store/database-error';
import { deliveryOf } from '../../store/import-runs';
import { hasJournals } from '../../store/ledger-facts';
import { currentRows, resourceOf, rowsOf } from '../../store/masters';
import { Names } from '../../store/people';
import { Store, type Moment } from '../../store/store';
import { importPackage } from '../imports/import-package';
import type { ImportOutcome, ImportProgress } from '../imports/import-request';
import { openPackage, type PackageSource } from '../imports/package-source';

/**
 * What the thread is to do: `look` into a foreign file, `check` what a delivery would change, or `write` it. `start`
 * does the first of them that fits the delivery.
 */
export type ImportStep =
  | { do: 'start'; again: boolean }
  | { do: 'look'; said: LookAgain }
  | { do: 'survey'; calendar: CalendarRule }
  | { do: 'check' | 'write'; isComplete: boolean };

export interface ImportWorkerData {
  databaseFile: string;
  location: string;
  fileName: string;
  person: string;
  isForeign: boolean;
  step: ImportStep;
  /** How a foreign file is read, once a person has said so. */
  mapping: Mapping | undefined;
  /** What an empty workspace starts with. */
  start: StartingBooks | undefined;
  /** What comes with a foreign file because the books do not have it yet. */
  additions: Additions | undefined;
  /** Set to 1 from outside to cancel. */
  cancelFlag: Int32Array;
}

export type ImportWorkerMessage =
  | { type: 'progress'; progress: ImportProgress }
  | { type: 'asking'; earlier: { finishedAt: string; person: string } }
  | { type: 'inspected'; inspection: InspectionView }
  | { type: 'surveyed'; survey: SurveyView }
  | { type: 'unreadable'; findings: Issue[] }
  | { type: 'outcome'; outcome: ImportOutcome; unmatched: UnmatchedView[] }
  | { type: 'error'; code: string; message: string; hint: string };

const PROGRESS_EVERY_MS = 100;
const YEARS_OFFERED = 7;

const send = (message: ImportWorkerMessage) => parentPort!.postMessage(message);

/** The plainest calendar, until a person says otherwise. */
const FIRST_RULE: CalendarRule = { kind: 'months', firstMonth: 1, namedAfter: 'end', adjustments: 0 };

const isEmpty = async ({ em }: Moment): Promise<boolean> =>
  (await currentRows(em, resourceOf('entities'))).length === 0;

const thisYear = (): number => new Date().getFullYear();

/** Periods that a person chooses one of for a file that does not name its month. */
function offeredCalendar(rule: CalendarRule): FiscalCalendar {
  const years = Array.from({ length: YEARS_OFFERED }, (_, index) => thisYear() + 1 - index);
  return buildCalendar(
    '',
    years.flatMap((year) => periodsOfRule(rule, year)),
  );
}

async function look(books: Moment, { location, fileName }: ImportWorkerData, said: LookAgain): Promise<void> {
  const { calendar: rule = FIRST_RULE } = said;
  const startsWith = (await isEmpty(books)) ? rule : null;
  const held = knownCodes(await foreignContext(books));
  const known = startsWith ? { ...held, calendar: wideCalendar(startsWith, thisYear()) } : held;
  const given = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
  const found = await inspectFile({ location, fileName, known, kept: await keptMappings(books.em), said: given });
  if (!('mapping' in found)) return send({ type: 'unreadable', findings: found.findings });
  const { findings, encodingText, ...inspection } = found;
  const noticed = findings.map(issueView);
  const codes = await codesOfBooks(books.em, startsWith ? offeredCalendar(startsWith) : known.calendar);
  const { mapping } = inspection;
  const hasEntity = mapping.columns['entity'] !== undefined || mapping.constants['entity'] !== undefined;
  if (startsWith && !hasEntity) mapping.constants = { ...mapping.constants, entity: STARTING_ENTITY };
  send({
    type: 'inspected',
    inspection: { ...inspection, encodingText: encodingText ?? null, noticed, codes, startsWith },
  });
}

async function survey({ location, fileName, mapping }: ImportWorkerData, rule: CalendarRule): Promise<void> {
  const found = await surveyFile(location, fileName, mapping!, wideCalendar(rule, thisYear()));
  if ('findings' in found) send({ type: 'unreadable', findings: found.findings });
  else send({ type: 'surveyed', survey: found });
}

async function bringIn(
  store: Store,
  books: Moment,
  data: ImportWorkerData,
  source: PackageSource,
  mapping?: Mapping,
): Promise<ImportOutcome> {
  const { fileName, person, step, cancelFlag } = data;
  let sentAt = 0;
  const onProgress = (progress: ImportProgress) => {
    if (Date.now() - sentAt < PROGRESS_EVERY_MS) return;
    sentAt = Date.now();
    send({ type: 'progress', progress });
  };
  return importPackage(store, {
    source,
    fileName,
    digest: await source.digest(),
    person,
    onProgress,
    isCancelled: () => Atomics.load(cancelFlag, 0) === 1,
    now: () => new Date(),
    isTrial: step.do === 'check' || (step.do === 'start' && hasJournals(books.db)),
    replacesChanged: true,
    isComplete: 'isComplete' in step && step.isComplete,
    ...(mapping ? { mapping } : {}),
  });
}

/** Brings a foreign file in by its mapping, which is kept for the next file of its kind. */
async function bringForeignIn(store: Store, books: Moment, data: ImportWorkerData, mapping: Mapping): Promise<void> {
  const { location, fileName, start, additions: asked = NOTHING_NEW } = data;
  // someone may have set entities up since the file was looked into
  if (start && !(await isEmpty(books))) throw appError('SRV_WORKSPACE_NOT_EMPTY');
  const additions = start ? asked : stillNew(asked, (await foreignContext(books)).postings);
  const context = start ? startingContext(start, additions) : await foreignContext(books, additions);
  const foreign = await openForeign(location, fileName, mapping, context);
  const added = withTables(foreign, additionTables(additions));
  const source = start ? startingSource(added, start) : added;
  const outcome = await bringIn(store, books, data, source, mapping);
  if (outcome.state !== 'cancelled')
    outcome.findings.shown = outcome.findings.shown.map((found) => inOwnWords(found, fileName, mapping));
  const unmatched = classifyNew(source.unmatched(), await rowsOf(books.em, 'accounts'));
  send({ type: 'outcome', outcome, unmatched });
}

async function run(data: ImportWorkerData): Promise<void> {
  const { databaseFile, location, isForeign, step } = data;
  const source = isForeign ? undefined : await openPackage(location);
  const store = await Store.open(databaseFile);
  // what the delivery is held against, whatever others write meanwhile
  const books = (await store.moment())!;
  try {
    if (step.do === 'start' && !step.again) {
      const digest = source ? await source.digest() : await digestOfFile(location);
      const earlier = await deliveryOf(books.em, digest);
      if (earlier) {
        const person = (await Names.read(books.em)).of(earlier.person);
        return send({ type: 'asking', earlier: { finishedAt: earlier.finishedAt, person } });
      }
    }
    if (source) return send({ type: 'outcome', outcome: await bringIn(store, books, data, source), unmatched: [] });
    if (step.do === 'start') return await look(books, data, {});
    if (step.do === 'survey') return await survey(data, step.calendar);
    if (step.do === 'look') return await look(books, data, step.said);
    await bringForeignIn(store, books, data, data.mapping!);
  } finally {
    await books.close();
    await store.close();
    source?.close();
  }
}

// one step after the other, as the delivery goes on
parentPort!.on('message', (data: ImportWorkerData | 'end') => {
  if (data === 'end') return parentPort!.close();
  run(data).catch((error: unknown) => {
    const known = error instanceof AppError ? error : databaseError(error);
    if (!(error instanceof AppError)) console.error(error);
    const shown = known ?? new AppError('SRV_INTERNAL');
    send({ type: 'error', code: shown.code, message: shown.message, hint: shown.hint });
  });
});
