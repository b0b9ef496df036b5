import { workerData } from 'node:worker_threads';
import * as v from 'valibot';
import { answerOf } from './base/ask-thread';
import { answerEach } from './base/kept-thread';
import { inStyle } from './base/reader-style';
import { raisedBy, untilStopped } from './base/stop';
import type { FiguresAsked } from './features/workspace/figures-thread';
import { readGroups } from './features/workspace/read-in-turns';
import type { Snapshot } from './features/workspace/snapshot';
import { Workspace } from './features/workspace/workspace';
import { triedPage } from './features/packs/content-maker';
import { statementFile } from './features/statement-file/statement-file';
import { STATEMENT_ANSWERS } from './features/statements/statement-answers';
import { Store } from './store/store';

type Work = (snapshot: Snapshot, id: string, query: never) => Promise<unknown>;

/** The works that are asked of the thread by their name: answers as they go over HTTP, and what a file is written from. */
const WORKS: Record<string, Work> = {
  ...Object.fromEntries(
    Object.entries(STATEMENT_ANSWERS).map(([name, { schema, answer }]) => [
      name,
      async (...asked: Parameters<Work>) => JSON.stringify(v.parse(schema, await answer(...asked))),
    ]),
  ),
  file: statementFile,
  page: triedPage,
  warm: readGroups,
};

const opened = Store.open(workerData as string).then((store) => new Workspace(store));

async function answered({ work, id, query, viewer, revision, cube }: FiguresAsked): Promise<unknown> {
  const workspace = await opened;
  workspace.cubes.take(cube);
  return workspace.read(viewer, (snapshot) => WORKS[work]!(snapshot, id, query as never), revision);
}

answerEach((asked: FiguresAsked) =>
  untilStopped(raisedBy(asked.stop), () => inStyle(asked.style, () => answerOf(() => answered(asked)))),
);
