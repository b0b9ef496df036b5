import { Migration } from '@mikro-orm/migrations';

/** Columns say the cash basis by its name. */
export class Migration0020CashBasis extends Migration {
  override up(): void {
    for (const table of ['document', 'draft'])
      this.addSql(`update \`${table}\` set \`body\` = replace(\`body\`, '"basis":"with_cash"', '"basis":"cash"');`);
  }
}
