import { Migration } from '@mikro-orm/migrations';

/** What values of dimensions carry themselves: who manages a department, where it is. */
export class Migration0017Attributes extends Migration {
  override up(): void {
    this.addSql(
      'create table `value_attribute` (`row_id` integer not null primary key autoincrement, `id` integer not null, `dimension` text not null, `value` text not null, `attribute` text not null, `text` text not null, `from` text not null, `since` integer not null, `until` integer null);',
    );
    this.addSql(
      'create unique index `value_attribute_dimension_value_attribute_from_since_unique` on `value_attribute` (`dimension`, `value`, `attribute`, `from`, `since`);',
    );
  }
}
