import { Migration } from '@mikro-orm/migrations';

/** People write numbers and days in a style of their own. */
export class Migration0019WritingStyle extends Migration {
  override up(): void {
    this.addSql('alter table `person` add column `style` json null;');
  }
}
