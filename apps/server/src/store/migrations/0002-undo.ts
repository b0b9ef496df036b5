import { Migration } from '@mikro-orm/migrations';

/** Deliveries can be undone. */
export class Migration0002Undo extends Migration {
  override up(): void {
    this.addSql('alter table `import_run` add column `undone` integer null;');
  }
}
