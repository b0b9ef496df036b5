import { Migration } from '@mikro-orm/migrations';

/** Finds what was done to one subject, such as the writes of a version's figures, however many there are of others. */
export class Migration0012ActsBySubject extends Migration {
  override up(): void {
    this.addSql('create index `revision_subject` on `workspace_revision` (`kind`, `subject`, `id`);');
  }
}
