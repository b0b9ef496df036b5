import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import type { PackRunRequest, PackRunView, PackTarget } from '@margin-lens/contract';
import { readConditions, writeConditions } from '@margin-lens/core';
import { appError, AppError } from '../../base/app-error';
import { endIfStopped, untilStopped } from '../../base/stop';
import { newTemporaryFolder } from '../../base/temporary-folder';
import type { Viewer } from '../../base/viewer';
import { packWords } from '../../base/words';
import { heldContext } from '../statements/open-statement';
import type { FiguresThread } from '../workspace/figures-thread';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { fileNameOfPack, packFile } from './pack-file';
import { KeptPages } from './kept-pages';
import { packPages, type PagesKept } from './pack-pages';
import { keptPack, packOf } from './pack-view';

/** Runs that are kept, with their files; the oldest that are over go first. */
const KEPT_RUNS = 20; // 1 to 200

interface Run {
  view: PackRunView;
  person: string;
  pack: string;
  stop: AbortController;
  /** Where the files of a run that is done are, as an archive. */
  file?: string;
  folder?: string;
  over?: Promise<void>;
}

/**
 * One pack for many: a file for each, all of one moment, one after the other beside what else is asked. Files are there
 * when all are made; what is cancelled or stopped leaves nothing behind.
 */
export class PackRuns {
  private readonly runs = new Map<string, Run>();

  constructor(private readonly workspace: Workspace) {}

  /** One run at a time for each person. @throws SRV_PACK_UNKNOWN, SRV_PACK_RUN_UNDER_WAY */
  async start(viewer: Viewer, pack: string, request: PackRunRequest): Promise<PackRunView> {
    await this.workspace.read(viewer, (snapshot) => keptPack(snapshot, pack));
    const isBusy = [...this.runs.values()].some(({ person, view }) => person === viewer.id && view.state === 'running');
    if (isBusy) throw appError('SRV_PACK_RUN_UNDER_WAY');
    const id = randomUUID();
    const view: PackRunView = { id, state: 'running', total: request.targets.length, made: [], failed: [] };
    const run: Run = { view, person: viewer.id, pack, stop: new AbortController() };
    this.runs.set(id, run);
    await this.forget();
    const { signal } = run.stop;
    run.over = untilStopped(signal, () => this.make(run, viewer, request)).catch((error: unknown) => {
      view.state = signal.aborted ? 'cancelled' : 'failed';
      if (!signal.aborted) console.error(error);
    });
    return view;
  }

  view(viewer: Viewer, id: string): PackRunView {
    return this.of(viewer, id).view;
  }

  async cancel(viewer: Viewer, id: string): Promise<PackRunView> {
    const run = this.of(viewer, id);
    run.stop.abort();
    await run.over;
    return run.view;
  }

  /** The archive of a run that is done, and what it is called. @throws SRV_PACK_RUN_UNKNOWN */
  file(viewer: Viewer, id: string): { file: string; name: string } {
    const { file, pack } = this.of(viewer, id);
    if (file === undefined) throw appError('SRV_PACK_RUN_UNKNOWN');
    return { file, name: `${pack}.zip` };
  }

  async close(): Promise<void> {
    const all = [...this.runs.values()];
    for (const { stop } of all) stop.abort();
    await Promise.all(all.map(({ over }) => over));
    await Promise.all(all.map(removed));
  }

  private of(viewer: Viewer, id: string): Run {
    const run = this.runs.get(id);
    if (run?.person !== viewer.id) throw appError('SRV_PACK_RUN_UNKNOWN');
    return run;
  }

  private async make(run: Run, viewer: Viewer, request: PackRunRequest): Promise<void> {
    run.folder = await newTemporaryFolder('pack-');
    const target = path.join(run.folder, 'files.zip');
    const zip = new yazl.ZipFile();
    const written = pipeline(zip.outputStream, createWriteStream(`${target}.part`));
    written.catch(() => undefined); // it is waited for below, or given up
    try {
      await this.workspace.read(viewer, async (snapshot) => {
        let writing: Promise<void> = Promise.resolve();
        for (const each of request.targets) {
          endIfStopped();
          const made = await madeFor(snapshot, this.workspace.figures, run, each, request);
          // a file is written in a thread while the next pages are made
          await writing;
          if (!made) continue;
          writing = made.file().then((file) => {
            zip.addBuffer(file, made.name);
            run.view.made.push(made.of);
          });
          writing.catch(() => undefined); // it is waited for before the next one
        }
        await writing;
      });
      zip.end();
      await written;
      await rename(`${target}.part`, target);
      run.file = target;
      run.view.state = 'done';
    } catch (error) {
      await removed(run);
      throw error;
    }
  }

  /** Forgets the oldest runs that are over, with their files. */
  private async forget(): Promise<void> {
    for (const [id, run] of this.runs) {
      if (this.runs.size <= KEPT_RUNS) return;
      if (run.view.state === 'running') continue;
      this.runs.delete(id);
      await removed(run);
    }
  }
}

const removed = async ({ folder }: Run): Promise<void> => {
  if (folder !== undefined) await rm(folder, { recursive: true, force: true });
};

/** Pages that are made for one, to be written. */
interface MadeFor {
  /** For whom, and what their file is called. */
  of: string;
  name: string;
  file(): Promise<Buffer>;
}

/** Makes the pages for one, or says why they cannot be made: one that cannot is reason enough. */
async function madeFor(
  snapshot: Snapshot,
  figures: FiguresThread,
  { pack: id, view }: Run,
  target: PackTarget,
  { context: shared, format }: PackRunRequest,
): Promise<MadeFor | undefined> {
  const of = nameOf(snapshot, target);
  const fails = (why: string) => {
    view.failed.push({ name: of, why });
    return undefined;
  };
  try {
    const pack = keptPack(snapshot, id);
    const held = heldContext(pack, shared);
    const context = { ...held, ...contextOf(target, held.where) };
    // another entity has a currency of its own
    if ('scope' in target && target.scope !== shared.scope) delete context.currency;
    const whose = packOf(snapshot, context);
    // those of one are asked for once: keeping them would only push out what somebody looks at
    const kept: PagesKept = new KeptPages();
    const pages = await packPages(snapshot, pack, context, { isLive: format === 'xlsx', kept, figures });
    const wrong = pages.find(({ problem }) => problem !== '');
    if (wrong) return fails(packWords.wrongPage(wrong.paper.page.title, wrong.problem));
    const value = 'value' in target ? target.value : undefined;
    const name = fileNameOfPack(pack, whose, format, value);
    return { of, name, file: () => packFile(pack, pages, whose.words, format) };
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    return fails([error.message, error.hint].filter(Boolean).join(' '));
  }
}

/** In what the pack of a target is read; a value takes the place of what was demanded of its dimension. */
function contextOf(target: PackTarget, where: string | undefined): { scope: string } | { where: string } {
  if ('scope' in target) return target;
  const { dimension, value } = target;
  const others = readConditions(where).filter((each) => each.dimension !== dimension);
  return { where: writeConditions([...others, { dimension, has: value === '' ? 'none' : 'in', values: [value] }]) };
}

function nameOf({ model }: Snapshot, target: PackTarget): string {
  if ('scope' in target) return model.entity(target.scope)?.name ?? model.group(target.scope)?.name ?? target.scope;
  const values = model.trees.find(({ name }) => name === target.dimension)?.values ?? [];
  return values.find(({ value }) => value === target.value)?.name || target.value;
}
