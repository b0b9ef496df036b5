import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import type { Worker } from 'node:worker_threads';
import { BehaviorSubject, type Observable } from 'rxjs';
import type { CheckRequest, FindingsView, ImportJobView, LookAgain, UnmatchedView } from '@margin-lens/contract';
import {
  describeIssue,
  ISSUE_CODES,
  type Additions,
  type Issue,
  type IssueCode,
  type Mapping,
  type StartingBooks,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { ROOM_FOR_ROWS, startWorker } from '../../base/start-worker';
import { issueView } from '../statements/issue-view';
import type { FindingList, ImportOutcome } from '../imports/import-request';
import type { Upload } from './receive-upload';
import type { ImportStep, ImportWorkerData, ImportWorkerMessage } from './import-worker';

interface Job {
  view: BehaviorSubject<ImportJobView>;
  /** Folder or file of the delivery, and the folder that is removed when it ends. */
  upload: Upload;
  person: string;
  cancelFlag: Int32Array;
  /** The thread that works on it, step by step, until it has ended. */
  worker?: Worker | undefined;
  /** A step is under way, and the limit on its time. */
  isAsked?: boolean;
  timer?: NodeJS.Timeout;
  /** How a foreign file is read, once a person has said so. */
  mapping?: Mapping;
  /** What an empty workspace starts with. */
  start?: StartingBooks;
  /** What comes with a foreign file because the books do not have it yet. */
  additions?: Additions | undefined;
}

const ENDED: readonly ImportJobView['state'][] = ['done', 'refused', 'cancelled', 'failed'];
/** States in which a delivery waits for a person. */
const WAITING: readonly ImportJobView['state'][] = ['asking', 'mapping', 'checked'];
/** How long a cancelled thread may take to notice, and one that only looks into a foreign file to look. */
const CANCEL_MS = 2_000; // 500 to 10,000
const LOOK_MS = 600_000; // 60,000 to 3,600,000
/** Reading is streamed; what wants more than this is no delivery. */
const MEMORY = { ...ROOM_FOR_ROWS, maxOldGenerationSizeMb: 4096 };
/** Ended jobs that can still be asked for. */
const JOBS_KEPT = 20;

const findingsView = ({ shown, errors, countByCode }: FindingList): FindingsView => ({
  shown: shown.map(issueView),
  errors,
  countByCode: countByCode.map(([code, count]) => ({ code, count, message: titleOf(code) })),
});

/** What a code is about, without the particulars of one finding. */
const titleOf = (code: IssueCode): string =>
  ISSUE_CODES[code].template.includes('{') ? describeIssue({ code, params: {} }).hint : ISSUE_CODES[code].template;

const listOf = (shown: Issue[]): FindingList => ({
  shown,
  errors: shown.filter(({ severity }) => severity === 'error').length,
  countByCode: [],
});

/** Deliveries under way: one at a time, each in a thread of its own, followed and cancelled by its id. */
export class ImportJobs {
  private readonly jobs = new Map<string, Job>();

  constructor(private readonly databaseFile: string) {}

  /**
   * A refused file whose mapping could still be corrected makes room; every other delivery that has not ended does not.
   * @throws SRV_IMPORT_BUSY when there is such a one
   */
  requireIdle(): void {
    for (const job of this.jobs.values()) {
      if (!ENDED.includes(job.view.value.state)) throw appError('SRV_IMPORT_BUSY');
      this.end(job, {});
    }
  }

  /** Starts reading a delivery that has arrived in a place of its own. */
  start(upload: Upload, person: string): ImportJobView {
    this.requireIdle();
    const id = randomUUID();
    const view = new BehaviorSubject<ImportJobView>({
      id,
      fileName: upload.fileName,
      state: 'preparing',
      progress: { file: '', rows: 0, bytesRead: 0, bytesTotal: 0 },
      earlier: null,
      inspection: null,
      survey: null,
      unmatched: [],
      effect: null,
      isComplete: false,
      findings: null,
      counts: null,
      seconds: null,
      error: null,
    });
    const job: Job = { view, upload, person, cancelFlag: new Int32Array(new SharedArrayBuffer(4)) };
    this.jobs.set(id, job);
    for (const old of [...this.jobs.keys()].slice(0, -JOBS_KEPT)) this.jobs.delete(old);
    this.run(job, { do: 'start', again: false });
    return view.value;
  }

  /** @throws SRV_IMPORT_UNKNOWN */
  private job(id: string): Job {
    const job = this.jobs.get(id);
    if (!job) throw appError('SRV_IMPORT_UNKNOWN');
    return job;
  }

  /** The states of a job from now on, beginning with the current one. */
  follow(id: string): Observable<ImportJobView> {
    return this.job(id).view;
  }

  view(id: string): ImportJobView {
    return this.job(id).view.value;
  }

  /** Ends the threads of all jobs; what one had begun to write is rolled back. */
  async close(): Promise<void> {
    await Promise.all([...this.jobs.values()].map(({ worker }) => worker?.terminate()));
  }

  /** The delivery that is not ended yet, if there is one. */
  running(): ImportJobView | undefined {
    return [...this.jobs.values()].find((job) => !job.view.isStopped)?.view.value;
  }

  /** Answers the question whether the same files shall be read again. */
  answer(id: string, again: boolean): ImportJobView {
    const job = this.waiting(id, 'asking');
    if (again) this.run(job, { do: 'start', again: true });
    else this.end(job, { state: 'cancelled' });
    return job.view.value;
  }

  /** Looks into a foreign file again, with what a person says of it. */
  lookAgain(id: string, said: LookAgain): ImportJobView {
    const job = this.waiting(id, 'mapping', 'checked', 'refused');
    this.run(job, { do: 'look', said });
    return job.view.value;
  }

  /** Reads a foreign file through for what an empty workspace must be told of it. */
  survey(id: string, mapping: Mapping): ImportJobView {
    const job = this.waiting(id, 'mapping', 'checked', 'refused');
    const calendar = job.view.value.inspection?.startsWith;
    if (!calendar) throw appError('SRV_IMPORT_NOT_ASKED');
    job.mapping = mapping;
    this.update(job, { survey: null });
    this.run(job, { do: 'survey', calendar });
    return job.view.value;
  }

  /** Checks what a delivery would change, a foreign file by its mapping; nothing is written. */
  check(id: string, { mapping, isComplete, start, additions }: CheckRequest): ImportJobView {
    const job = this.waiting(id, 'mapping', 'checked', 'refused');
    if (mapping) {
      job.mapping = mapping;
      job.additions = additions;
    }
    if (start) job.start = start;
    if (job.upload.isForeign && !job.mapping) throw appError('SRV_IMPORT_NOT_ASKED');
    this.update(job, { isComplete });
    this.run(job, { do: 'check', isComplete });
    return job.view.value;
  }

  /** Writes a delivery as it was checked. */
  goAhead(id: string): ImportJobView {
    const job = this.waiting(id, 'checked');
    this.run(job, { do: 'write', isComplete: job.view.value.isComplete });
    return job.view.value;
  }

  /** @throws SRV_IMPORT_NOT_ASKED when the delivery is not in one of these states */
  private waiting(id: string, ...states: ImportJobView['state'][]): Job {
    const job = this.job(id);
    if (!states.includes(job.view.value.state) || job.view.isStopped) throw appError('SRV_IMPORT_NOT_ASKED');
    return job;
  }

  /** Cancels; the books stay as they were. */
  cancel(id: string): ImportJobView {
    const job = this.job(id);
    const { state } = job.view.value;
    if (WAITING.includes(state) || (state === 'refused' && !job.view.isStopped)) this.end(job, { state: 'cancelled' });
    Atomics.store(job.cancelFlag, 0, 1);
    const { worker } = job;
    // a thread that does not come to look at the flag is ended; what it had begun to write is rolled back
    if (worker) setTimeout(() => void this.stop(job, worker, { state: 'cancelled' }), CANCEL_MS).unref();
    return job.view.value;
  }

  /** Ends the thread that works on a job, unless it has ended meanwhile. */
  private async stop(job: Job, worker: Worker, change: Partial<ImportJobView>): Promise<void> {
    if (job.worker !== worker) return;
    this.end(job, change);
    await worker.terminate();
  }

  private run(job: Job, step: ImportStep): void {
    const { location, fileName, isForeign } = job.upload;
    const data: ImportWorkerData = {
      databaseFile: this.databaseFile,
      location,
      fileName,
      isForeign,
      person: job.person,
      step,
      cancelFlag: job.cancelFlag,
      mapping: job.mapping,
      start: job.start,
      additions: job.additions,
    };
    this.update(job, { state: 'preparing', findings: null, effect: null });
    const worker = (job.worker ??= this.thread(job));
    const isLook = isForeign && step.do !== 'write';
    const tooLong = appError('SRV_IMPORT_TOO_LONG', { minutes: LOOK_MS / 60_000 });
    const error = { code: tooLong.code, message: tooLong.message, hint: tooLong.hint };
    if (isLook) job.timer = setTimeout(() => void this.stop(job, worker, { state: 'failed', error }), LOOK_MS).unref();
    job.isAsked = true;
    worker.postMessage(data);
  }

  /** Starts the thread that takes the steps of a job, one after the other. */
  private thread(job: Job): Worker {
    const worker = startWorker('features/deliveries/import-worker', undefined, MEMORY);
    worker.unref();
    worker.on('message', (message: ImportWorkerMessage) => {
      if (message.type !== 'progress') this.answered(job);
      this.take(job, message);
    });
    worker.on('error', (error) => this.fail(job, error));
    worker.on('exit', () => {
      job.worker = undefined;
      if (job.isAsked) this.fail(job, new Error('the thread ended'));
      this.answered(job);
    });
    return worker;
  }

  private answered(job: Job): void {
    clearTimeout(job.timer);
    job.isAsked = false;
  }

  private take(job: Job, message: ImportWorkerMessage): void {
    switch (message.type) {
      case 'progress':
        return this.update(job, { state: 'reading', progress: message.progress });
      case 'asking':
        return this.update(job, { state: 'asking', earlier: message.earlier });
      case 'inspected':
        return this.update(job, { state: 'mapping', inspection: message.inspection, survey: null, unmatched: [] });
      case 'surveyed':
        return this.update(job, { state: 'mapping', survey: message.survey });
      case 'unreadable':
        return this.conclude(job, { state: 'refused', findings: findingsView(listOf(message.findings)) }, []);
      case 'outcome':
        return this.conclude(job, changesOf(message.outcome), message.unmatched);
      case 'error':
        return this.end(job, { state: 'failed', error: message });
    }
  }

  /** A refused foreign file stays, so that its mapping can be corrected; everything else that is over ends. */
  private conclude(job: Job, change: Partial<ImportJobView>, unmatched: UnmatchedView[]): void {
    const canBeMended = change.state === 'refused' && job.upload.isForeign && job.view.value.inspection !== null;
    if (change.state === 'checked' || canBeMended) this.update(job, { ...change, unmatched });
    else this.end(job, change);
  }

  private fail(job: Job, error: unknown): void {
    if (job.view.isStopped) return;
    console.error(error);
    const { code, message, hint } = appError('SRV_INTERNAL');
    this.end(job, { state: 'failed', error: { code, message, hint } });
  }

  private update(job: Job, change: Partial<ImportJobView>): void {
    job.view.next({ ...job.view.value, ...change });
  }

  private end(job: Job, change: Partial<ImportJobView>): void {
    if (job.view.isStopped) return;
    this.update(job, change);
    job.view.complete();
    clearTimeout(job.timer);
    job.worker?.postMessage('end');
    void rm(job.upload.folder, { recursive: true, force: true });
  }
}

function changesOf(outcome: ImportOutcome): Partial<ImportJobView> {
  switch (outcome.state) {
    case 'done':
      return {
        state: 'done',
        counts: outcome.counts,
        findings: findingsView(outcome.findings),
        seconds: outcome.seconds,
      };
    case 'checked':
      return {
        state: 'checked',
        counts: outcome.counts,
        effect: outcome.effect,
        findings: findingsView(outcome.findings),
      };
    case 'refused':
      return { state: 'refused', findings: findingsView(outcome.findings) };
    case 'cancelled':
      return { state: 'cancelled' };
  }
}
