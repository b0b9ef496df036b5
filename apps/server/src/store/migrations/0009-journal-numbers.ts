import { Migration } from '@mikro-orm/migrations';

/**
 * A number stands once among the journals that hold, in an entity and fiscal year. Where it stood twice, the later one
 * is told apart by its id, since a package of two could not be brought in again.
 */
export class Migration0009JournalNumbers extends Migration {
  override up(): void {
    this.addSql(
      `update journal set number = number || '/' || id where until is null and id not in
         (select min(id) from journal where until is null group by entity, fiscal_year, number);`,
    );
    this.addSql(
      'create unique index `journal_current_number` on `journal` (`entity`, `fiscal_year`, `number`) where `until` is null;',
    );
  }
}
