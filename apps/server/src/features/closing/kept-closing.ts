import type { EntityManager } from '@mikro-orm/better-sqlite';
import { NO_CLOSING_LIST, tickId, type ClosingList, type ClosingTask, type ClosingTick } from '@margin-lens/core';
import { maySee, type Viewer } from '../../base/viewer';
import { currentDocument, currentDocuments } from '../../store/documents';
import { Names } from '../../store/people';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** Kinds of the documents that the checklist and what was done of it are kept as. */
export const CLOSING_LIST = 'closing_list';
export const CLOSING_TICK = 'closing_tick';
/** Id of the one checklist that a workspace has. */
export const LIST_ID = 'month_end';

export async function closingList(em: EntityManager): Promise<ClosingList> {
  const held = await currentDocument(em, CLOSING_LIST, LIST_ID);
  return held ? (JSON.parse(held.body) as ClosingList) : NO_CLOSING_LIST;
}

/** Tasks that were done, by their ids; with the names of who did them. */
export async function closingTicks(em: EntityManager): Promise<Map<string, ClosingTick>> {
  const names = await Names.read(em);
  const ticks = (await currentDocuments(em, [CLOSING_TICK])).map(({ body }) => JSON.parse(body) as ClosingTick);
  return new Map(ticks.map((tick) => [tickId(tick), { ...tick, person: names.of(tick.person) }]));
}

/** Whether someone may know of a task: not where it is of an entity that they may not see. */
export const mayKnow = (model: WorkspaceModel, viewer: Viewer, { scope }: Pick<ClosingTask, 'scope'>): boolean =>
  model.entity(scope) === undefined || maySee(viewer, scope);
