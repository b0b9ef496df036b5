import { Migration } from '@mikro-orm/migrations';

const MASTER = '`row_id` integer not null primary key autoincrement, `id` integer not null';

/** A map made anew with the day that a row begins on, empty in the rows that are there. */
function dated(table: string, columns: readonly string[]): string[] {
  const beside = `${table}_dated`;
  const quoted = (names: readonly string[]) => names.map((name) => `\`${name}\``).join(', ');
  const kept = ['row_id', 'id', ...columns, 'since', 'until'];
  const key = [...columns.filter((column) => column !== 'to'), 'valid_from', 'since'];
  return [
    `create table \`${beside}\` (${MASTER}, ${[...columns, 'valid_from'].map((name) => `\`${name}\` text not null`).join(', ')}, \`since\` integer not null, \`until\` integer null);`,
    `insert into \`${beside}\` (${quoted([...kept, 'valid_from'])}) select ${quoted(kept)}, '' from \`${table}\`;`,
    `drop table \`${table}\`;`,
    `alter table \`${beside}\` rename to \`${table}\`;`,
    `create unique index \`${table}_${key.join('_')}_unique\` on \`${table}\` (${quoted(key)});`,
  ];
}

/** Lines keep accounts and values as the entity's own books have them, and what stands for these can change from a day on. */
export class Migration0016LocalCodes extends Migration {
  override up(): void {
    const statements = [
      ...dated('account_map', ['entity', 'from', 'to']),
      ...dated('value_map', ['entity', 'dimension', 'from', 'to']),
      ...['local_account', 'local_values'].map(
        (column) => `alter table \`journal_line\` add column \`${column}\` text not null default '';`,
      ),
      "create index `journal_line_local` on `journal_line` (`entity`) where `local_account` <> '' or `local_values` <> '';",
    ];
    for (const statement of statements) this.addSql(statement);
  }
}
