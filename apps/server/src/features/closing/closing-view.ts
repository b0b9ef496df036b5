import type { ClosingQuery, ClosingView } from '@margin-lens/contract';
import { dueOn, periodName, periodOfAsAt, tickId, type ClosingTask, type Scope } from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import { daysOffOf, NONE_OFF } from '../workspace/days-off';
import { heldEntities, openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { closingList, closingTicks, mayKnow } from './kept-closing';

type Line = ClosingView['tasks'][number];

/**
 * The month-end checklist of a scope, with the days on which it is due and what was done of it.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export async function closingView(snapshot: Snapshot, query: ClosingQuery, now = new Date()): Promise<ClosingView> {
  const { filled: model, viewer, em, revision } = snapshot;
  const scope = openScope(model, viewer, query.scope);
  const at = openPeriod(scope, query.as_at);
  const list = await closingList(em);
  const ticks = await closingTicks(em);
  const isGroup = model.group(scope.code) !== undefined;
  const entities = heldEntities(scope, at).filter(({ code }) => maySee(viewer, code));
  const off = await daysOffOf(entities, model);
  const today = now.toISOString().slice(0, 10);

  /** Tasks of an entity, or of the group, whose days are those of the entity at its top. */
  const linesOf = (
    { code, name, calendar }: Pick<Scope, 'code' | 'name' | 'calendar'>,
    days: ReadonlySet<string>,
    isOf: (task: ClosingTask) => boolean,
  ): Line[] => {
    const period = periodOfAsAt(calendar.calendar, query.as_at);
    if (!period) return [];
    return list.tasks.filter(isOf).map((task): Line => {
      const tick = ticks.get(tickId({ scope: code, period: period.key, task: task.id }));
      const due = dueOn(task.day, period, days);
      const done = tick ? { person: tick.person, at: tick.at } : null;
      return { ...task, of: { code, name, period: period.key }, due, isLate: !done && due < today, done };
    });
  };

  const ofTop = off.get(entities[0]?.code ?? '') ?? NONE_OFF;
  const lines = [
    ...(isGroup ? linesOf(scope, ofTop, (task) => task.scope === scope.code) : []),
    ...entities.flatMap((entity) =>
      linesOf(entity, off.get(entity.code) ?? NONE_OFF, (task) => task.scope === '' || task.scope === entity.code),
    ),
  ];
  return {
    scope: { code: scope.code, name: scope.name, isGroup },
    asAt: { key: at.key, name: periodName(at) },
    revision,
    tasks: lines.sort((a, b) => (a.due === b.due ? 0 : a.due < b.due ? -1 : 1)),
    list: { ...list, tasks: list.tasks.filter((task) => mayKnow(model, viewer, task)) },
  };
}
