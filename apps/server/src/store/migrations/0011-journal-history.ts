import { Migration } from '@mikro-orm/migrations';

/** Finds the journals that came or went behind a revision, so that what is held in memory can be brought up to date. */
export class Migration0011JournalHistory extends Migration {
  override up(): void {
    this.addSql('create index `journal_since` on `journal` (`since`);');
    this.addSql('create index `journal_until` on `journal` (`until`) where `until` is not null;');
  }
}
