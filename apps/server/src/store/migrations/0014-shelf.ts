import { Migration } from '@mikro-orm/migrations';

/** What each person keeps at hand: statements that they marked, and when they last opened each. */
export class Migration0014Shelf extends Migration {
  override up(): void {
    this.addSql(
      'create table `shelf_entry` (`person` text not null, `statement` text not null, `version` integer not null default 1, `is_favourite` integer not null, `opened_at` text not null, primary key (`person`, `statement`));',
    );
  }
}
