import type Database from 'better-sqlite3';
import { MAX_MINOR } from '@margin-lens/core';
import { appError } from '../base/app-error';

/**
 * Holds that whatever is summed of the books stays a whole number that is kept exactly; call at the end of the
 * transaction that posts. `entity` narrows it to one, by id.
 * @throws SRV_SUM_TOO_LARGE
 */
export function requireExactSums(db: Database.Database, entity?: number): void {
  const beyond = db
    .prepare(
      `select e.code as entity from balance b join entity e on e.id = b.entity and e.until is null
       where ${entity === undefined ? '1' : 'b.version = 0 and b.entity = @entity'} group by b.version, b.entity
       having total(b.debit) + total(b.credit) > @most or total(abs(b.quantity)) > @most limit 1`,
    )
    .get({ most: MAX_MINOR, ...(entity === undefined ? {} : { entity }) }) as { entity: string } | undefined;
  if (beyond) throw appError('SRV_SUM_TOO_LARGE', { entity: beyond.entity });
}
