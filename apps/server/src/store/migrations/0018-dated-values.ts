import { Migration } from '@mikro-orm/migrations';

const HELD = '`row_id`, `id`, `dimension`, `value`, `name`, `parent`';

/** Values of dimensions hang in other places from a period on. */
export class Migration0018DatedValues extends Migration {
  override up(): void {
    this.addSql(
      'create table `dated_value` (`row_id` integer not null primary key autoincrement, `id` integer not null, `dimension` text not null, `value` text not null, `name` text not null, `parent` text not null, `from` text not null, `since` integer not null, `until` integer null);',
    );
    this.addSql(
      `insert into \`dated_value\` (${HELD}, \`from\`, \`since\`, \`until\`) select ${HELD}, '', \`since\`, \`until\` from \`dimension_value\`;`,
    );
    this.addSql('drop table `dimension_value`;');
    this.addSql('alter table `dated_value` rename to `dimension_value`;');
    this.addSql(
      'create unique index `dimension_value_dimension_value_from_since_unique` on `dimension_value` (`dimension`, `value`, `from`, `since`);',
    );
  }
}
