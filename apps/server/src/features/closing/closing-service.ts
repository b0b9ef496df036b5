import type { SaveClosingList, Tick } from '@margin-lens/contract';
import { tickId, type ClosingTick } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireEntity, type Viewer } from '../../base/viewer';
import { currentDocument, endDocument, storeDocument } from '../../store/documents';
import { whoAndWhen } from '../../store/people';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Workspace } from '../workspace/workspace';
import { CLOSING_LIST, CLOSING_TICK, closingList, LIST_ID, mayKnow } from './kept-closing';

/** The month-end checklist: what is to be done, and what of it was. */
export class ClosingService {
  constructor(private readonly workspace: Workspace) {}

  /** @throws SRV_CLOSING_CHANGED when someone else has written it since; SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED */
  saveList(viewer: Viewer, { base, list }: SaveClosingList): Promise<void> {
    return this.workspace.write(viewer, { kind: 'write_closing_list', subject: LIST_ID }, async (write) => {
      const held = await currentDocument(write.em, CLOSING_LIST, LIST_ID);
      if (held && held.since > base) {
        const { person } = (await whoAndWhen(write.em, [held.since]))(held.since);
        throw appError('SRV_CLOSING_CHANGED', { person });
      }
      const { filled: model } = write.snapshot;
      for (const { scope } of list.tasks) {
        if (scope !== '' && !model.entity(scope) && !model.group(scope)) throw appError('SRV_SCOPE_UNKNOWN', { scope });
        if (model.entity(scope)) requireEntity(viewer, scope);
      }
      // tasks that the person may not know of stay as they are
      const unseen = (await closingList(write.em)).tasks.filter((task) => !mayKnow(model, viewer, task));
      await storeDocument(write, CLOSING_LIST, LIST_ID, { ...list, tasks: [...list.tasks, ...unseen] });
    });
  }

  /**
   * Says that a task was done for a month, or that it was not.
   * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_CLOSING_TASK_UNKNOWN
   */
  tick(viewer: Viewer, { isDone, ...place }: Tick): Promise<void> {
    const id = tickId(place);
    return this.workspace.write(viewer, { kind: isDone ? 'tick_off' : 'take_off_tick', subject: id }, async (write) => {
      const { filled: model } = write.snapshot;
      if (model.entity(place.scope)) requireEntity(viewer, place.scope);
      openPeriod(openScope(model, viewer, place.scope), place.period);
      const { tasks } = await closingList(write.em);
      const isOf = ({ id, scope }: (typeof tasks)[number]) =>
        id === place.task && (scope === place.scope || (scope === '' && model.entity(place.scope) !== undefined));
      if (!tasks.some(isOf)) throw appError('SRV_CLOSING_TASK_UNKNOWN', {});
      const tick: ClosingTick = { ...place, person: viewer.id, at: new Date().toISOString() };
      await (isDone ? storeDocument(write, CLOSING_TICK, id, tick) : endDocument(write, CLOSING_TICK, id));
    });
  }
}
