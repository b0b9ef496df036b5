import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { BehaviorSubject, type Observable } from 'rxjs';
import type { FindingsView, ImportJobView } from '@margin-lens/contract';
import { describeIssue, ISSUE_CODES, type IssueCode } from '@margin-lens/core';
import { appError } from '../../app-error';
import { issueView } from '../statements/issue-view';
import type { FindingList, ImportOutcome } from './import-package';
import { startWorker } from './read-journals';
import type { Upload } from './receive-upload';
import type { ImportWorkerData, ImportWorkerMessage } from './import-worker';

interface Job {
  view: BehaviorSubject<ImportJobView>;
  /** Folder or zip file of the delivery, and the folder that is removed when it ends. */
  upload: Upload;
  person: string;
  cancelFlag: Int32Array;
}

const ENDED: readonly ImportJobView['state'][] = ['done', 'refused', 'cancelled', 'failed'];
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

/** Deliveries under way: one at a time, each in a thread of its own, followed and cancelled by its id. */
export class ImportJobs {
  private readonly jobs = new Map<string, Job>();

  constructor(private readonly databaseFile: string) {}

  /** @throws SRV_IMPORT_BUSY when another delivery is being read */
  requireIdle(): void {
    if ([...this.jobs.values()].some((job) => !ENDED.includes(job.view.value.state))) throw appError('SRV_IMPORT_BUSY');
  }

  /** Starts reading a delivery that has arrived in a place of its own. */
  start(upload: Upload, person: string): ImportJobView {
    this.requireIdle();
    const id = randomUUID();
    const view = new BehaviorSubject<ImportJobView>({
      id, fileName: upload.fileName, state: 'preparing', progress: { file: '', rows: 0, bytesRead: 0, bytesTotal: 0 },
      earlier: null, findings: null, counts: null, seconds: null, error: null,
    }); // prettier-ignore
    const job: Job = { view, upload, person, cancelFlag: new Int32Array(new SharedArrayBuffer(4)) };
    this.jobs.set(id, job);
    for (const old of [...this.jobs.keys()].slice(0, -JOBS_KEPT)) this.jobs.delete(old);
    this.run(job, false);
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

  /** The delivery that is not ended yet, if there is one. */
  running(): ImportJobView | undefined {
    return [...this.jobs.values()].map((job) => job.view.value).find((view) => !ENDED.includes(view.state));
  }

  /** Answers the question whether the same files shall be read again. */
  answer(id: string, again: boolean): ImportJobView {
    const job = this.job(id);
    if (job.view.value.state !== 'asking') throw appError('SRV_IMPORT_NOT_ASKED');
    if (again) this.run(job, true);
    else this.end(job, { state: 'cancelled' });
    return job.view.value;
  }

  /** Cancels; the books stay as they were. */
  cancel(id: string): ImportJobView {
    const job = this.job(id);
    if (job.view.value.state === 'asking') this.end(job, { state: 'cancelled' });
    Atomics.store(job.cancelFlag, 0, 1);
    return job.view.value;
  }

  private run(job: Job, again: boolean): void {
    const { location, fileName } = job.upload;
    const data: ImportWorkerData = {
      databaseFile: this.databaseFile, location, fileName, person: job.person, again, cancelFlag: job.cancelFlag,
    }; // prettier-ignore
    this.update(job, { state: 'preparing' });
    const worker = startWorker('import-worker', data);
    worker.on('message', (message: ImportWorkerMessage) => this.take(job, message));
    worker.on('error', (error) => this.fail(job, error));
    worker.on('exit', () => {
      if (!ENDED.includes(job.view.value.state) && job.view.value.state !== 'asking')
        this.fail(job, new Error('the thread ended'));
    });
  }

  private take(job: Job, message: ImportWorkerMessage): void {
    switch (message.type) {
      case 'progress':
        return this.update(job, { state: 'reading', progress: message.progress });
      case 'asking':
        return this.update(job, { state: 'asking', earlier: message.earlier });
      case 'outcome':
        return this.end(job, changesOf(message.outcome));
      case 'error':
        return this.end(job, { state: 'failed', error: message });
    }
  }

  private fail(job: Job, error: unknown): void {
    console.error(error);
    const { code, message, hint } = appError('SRV_INTERNAL');
    this.end(job, { state: 'failed', error: { code, message, hint } });
  }

  private update(job: Job, change: Partial<ImportJobView>): void {
    job.view.next({ ...job.view.value, ...change });
  }

  private end(job: Job, change: Partial<ImportJobView>): void {
    if (ENDED.includes(job.view.value.state)) return;
    this.update(job, change);
    job.view.complete();
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
    case 'refused':
      return { state: 'refused', findings: findingsView(outcome.findings) };
    case 'cancelled':
      return { state: 'cancelled' };
  }
}
