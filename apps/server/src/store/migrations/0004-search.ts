import { Migration } from '@mikro-orm/migrations';

/** Words of journal lines, by line id; filled behind the books, so that bringing lines in does not wait for it. */
export class Migration0004Search extends Migration {
  override up(): void {
    this.addSql(
      `create virtual table line_words using fts5(words, content='', columnsize=0, detail=none, tokenize="unicode61 remove_diacritics 2");`,
    );
    this.addSql('create table `search_state` (`indexed_to` integer not null);');
    this.addSql('insert into `search_state` values (0);');
  }
}
