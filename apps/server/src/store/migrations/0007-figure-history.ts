import { Migration } from '@mikro-orm/migrations';

/** Finds the figures of one write: those that came with a revision, and those that went with it. */
export class Migration0007FigureHistory extends Migration {
  override up(): void {
    this.addSql('create index `figure_since` on `figure` (`version`, `since`);');
    this.addSql('create index `figure_until` on `figure` (`version`, `until`);');
  }
}
