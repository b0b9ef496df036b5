import { Migration } from '@mikro-orm/migrations';

/** Documents that people are working on, each seen by its author alone until it is kept. */
export class Migration0005Drafts extends Migration {
  override up(): void {
    this.addSql(
      'create table `draft` (`person` text not null, `kind` text not null, `id` text not null, `body` text not null, `base` integer not null, `at` text not null, primary key (`person`, `kind`, `id`));',
    );
  }
}
