import { Migration } from '@mikro-orm/migrations';

/** When each month of an entity was first posted to, by which late postings are told. */
export class Migration0003FirstPosting extends Migration {
  override up(): void {
    this.addSql(
      'create table `first_posting` (`entity` integer not null, `period` integer not null, `revision` integer not null, primary key (`entity`, `period`)) without rowid;',
    );
    this.addSql(
      'insert into `first_posting` select l.entity, l.period, min(j.since) from journal_line l join journal j on j.id = l.journal group by 1, 2;',
    );
  }
}
