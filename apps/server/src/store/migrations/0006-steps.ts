import { Migration } from '@mikro-orm/migrations';

/** Steps of work on documents, as each person did them and took them back. */
export class Migration0006Steps extends Migration {
  override up(): void {
    this.addSql(
      'create table `step` (`seq` integer primary key autoincrement, `action` text not null, `person` text not null, `kind` text not null, `id` text not null, `label` text not null, `before` text not null, `after` text not null, `at` text not null, `state` text not null, `reverses` text, unique (`person`, `action`, `kind`, `id`));',
    );
    this.addSql('create index `step_document` on `step` (`person`, `kind`, `id`, `seq`);');
  }
}
