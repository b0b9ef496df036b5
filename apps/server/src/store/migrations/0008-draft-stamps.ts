import { Migration } from '@mikro-orm/migrations';

/** Tells the states of a draft apart, so that two windows of one person do not overwrite each other. */
export class Migration0008DraftStamps extends Migration {
  override up(): void {
    this.addSql("alter table `draft` add column `stamp` text not null default 'first';");
  }
}
