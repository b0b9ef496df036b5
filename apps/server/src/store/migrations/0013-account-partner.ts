import { Migration } from '@mikro-orm/migrations';

const BEFORE =
  '`row_id`, `since`, `until`, `id`, `number`, `name`, `nature`, `category`, `subcategory`, `role`, `translation`, `monetary`, `intercompany`';
const BEHIND = '`behaviour`, `better`, `unit`, `decimals`';

/** Accounts that are held against one partner name it. */
export class Migration0013AccountPartner extends Migration {
  override up(): void {
    this.addSql(
      'create table `account_with_partner` (`row_id` integer not null primary key autoincrement, `since` integer not null, `until` integer null, `id` integer not null, `number` text not null, `name` text not null, `nature` text not null, `category` text not null, `subcategory` text not null, `role` text not null, `translation` text not null, `monetary` text not null, `intercompany` text not null, `partner` text not null, `behaviour` text not null, `better` text not null, `unit` text not null, `decimals` integer null);',
    );
    this.addSql(
      `insert into \`account_with_partner\` (${BEFORE}, \`partner\`, ${BEHIND}) select ${BEFORE}, '', ${BEHIND} from \`account\`;`,
    );
    this.addSql('drop table `account`;');
    this.addSql('alter table `account_with_partner` rename to `account`;');
    this.addSql('create unique index `account_number_since_unique` on `account` (`number`, `since`);');
  }
}
