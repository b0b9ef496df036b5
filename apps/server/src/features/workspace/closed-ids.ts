import type { EntityManager } from '@mikro-orm/better-sqlite';
import { rowsOf } from '../../store/masters';
import { calendarsOfRows } from './package-rows';

/** Closed periods as `entity|period` of their ids. */
export async function closedIds(em: EntityManager): Promise<ReadonlySet<string>> {
  const calendars = calendarsOfRows(await rowsOf(em, 'calendars'));
  const entities = new Map((await rowsOf(em, 'entities')).map((row) => [row['code'], row]));
  const closed = (await rowsOf(em, 'period_status')).filter((row) => row['status'] === 'closed');
  return new Set(
    closed.flatMap((row) => {
      const entity = entities.get(row['entity']);
      const calendar = entity && calendars.get(String(entity['calendar']));
      const period = calendar?.calendar.periods.find(({ key }) => key === row['period']);
      return period ? [`${entity!.id}|${calendar!.idOf(period)}`] : [];
    }),
  );
}
