import { Migration } from '@mikro-orm/migrations';

const MASTER = '`row_id` integer not null primary key autoincrement, `id` integer not null';
const HELD = '`since` integer not null, `until` integer null';

/** A table of master data with the columns that name a row; a column that ends in `:n` holds whole numbers. */
interface Table {
  name: string;
  columns: readonly string[];
  key: readonly string[];
}

const columnOf = (column: string) => column.replace(/:n$/, '');
const definitionOf = (column: string) =>
  column.endsWith(':n') ? `\`${columnOf(column)}\` integer null` : `\`${column}\` text not null`;
const quoted = (columns: readonly string[]) => columns.map((column) => `\`${columnOf(column)}\``).join(', ');

const made = ({ name, columns, key }: Table, as = name): string[] => [
  `create table \`${as}\` (${MASTER}, ${columns.map(definitionOf).join(', ')}, ${HELD});`,
  ...(as === name ? [indexOf({ name, columns, key })] : []),
];
const indexOf = ({ name, key }: Table): string =>
  `create unique index \`${name}_${key.join('_')}_since_unique\` on \`${name}\` (${quoted([...key, 'since'])});`;

/** A table made anew with further columns, empty in the rows that are there. */
function widened(table: Table, added: readonly string[]): string[] {
  const kept = ['row_id', 'id', ...table.columns.filter((column) => !added.includes(column)), 'since', 'until'];
  const empty = added.map(() => "''").join(', ');
  const beside = `${table.name}_wider`;
  return [
    ...made(table, beside),
    `insert into \`${beside}\` (${quoted([...kept, ...added])}) select ${quoted(kept)}, ${empty} from \`${table.name}\`;`,
    `drop table \`${table.name}\`;`,
    `alter table \`${beside}\` rename to \`${table.name}\`;`,
    indexOf(table),
  ];
}

const WIDENED: readonly [Table, added: readonly string[]][] = [
  [
    { name: 'entity', columns: ['code', 'name', 'currency', 'calendar', 'tax_rate', 'translation'], key: ['code'] },
    ['tax_rate', 'translation'],
  ],
  [
    {
      name: 'entity_group',
      columns: ['code', 'name', 'currency', 'calendar', 'top_entity', 'parent_group', 'tiers'],
      key: ['code'],
    },
    ['tiers'],
  ],
  [
    {
      name: 'acquisition',
      columns: [
        ...['investor', 'investee', 'date', 'consideration', 'prior_interest_fair_value', 'nci_method'],
        ...['nci_fair_value', 'kind', 'item', 'account', 'expense_account', 'local_amount', 'life_months:n'],
      ],
      key: ['investor', 'investee', 'date', 'item', 'account'],
    },
    ['prior_interest_fair_value', 'kind', 'expense_account'],
  ],
  [
    {
      name: 'historical_amount',
      columns: ['entity', 'account', 'date', 'currency', 'local_amount', 'group_amount'],
      key: ['entity', 'account', 'date', 'currency'],
    },
    ['currency'],
  ],
];

const MADE: readonly Table[] = [
  { name: 'partner', columns: ['code', 'name', 'kind', 'entity', 'group'], key: ['code'] },
  { name: 'source_link', columns: ['entity', 'document_type', 'pattern'], key: ['entity', 'document_type'] },
  {
    name: 'attachment',
    columns: ['entity', 'fiscal_year:n', 'journal', 'document', 'file', 'name', 'sha256'],
    key: ['entity', 'fiscal_year', 'journal', 'document', 'file'],
  },
  {
    name: 'disposal',
    columns: ['investor', 'investee', 'date', 'percent_sold', 'proceeds', 'kept_fair_value'],
    key: ['investor', 'investee', 'date'],
  },
  {
    name: 'impairment',
    columns: ['investor', 'investee', 'period', 'amount'],
    key: ['investor', 'investee', 'period'],
  },
  {
    name: 'associate_result',
    columns: ['entity', 'period', 'profit', 'other_reserves', 'dividend'],
    key: ['entity', 'period'],
  },
  {
    name: 'stock_held',
    columns: ['holder', 'seller', 'period', 'amount', 'margin', 'direction', 'stock_account', 'cost_account'],
    key: ['holder', 'seller', 'period', 'stock_account'],
  },
  {
    name: 'asset_transfer',
    columns: [
      ...['seller', 'buyer', 'period', 'account', 'proceeds', 'carrying_amount', 'life_months:n'],
      ...['gain_account', 'expense_account'],
    ],
    key: ['seller', 'buyer', 'period', 'account'],
  },
  {
    name: 'asset_layer',
    columns: [
      ...['entity', 'account', 'layer', 'date', 'local_amount', 'rate', 'life_months:n', 'first_period'],
      ...['accumulated_account', 'expense_account'],
    ],
    key: ['entity', 'account', 'layer'],
  },
  {
    name: 'standing_rule',
    columns: [
      ...['group', 'rule', 'kind', 'side', 'accounts', 'partner_accounts', 'difference_account'],
      ...['outside_account', 'tolerance'],
    ],
    key: ['group', 'rule'],
  },
  { name: 'account_map', columns: ['entity', 'from', 'to'], key: ['entity', 'from'] },
  { name: 'value_map', columns: ['entity', 'dimension', 'from', 'to'], key: ['entity', 'dimension', 'from'] },
  { name: 'calendar_map', columns: ['entity', 'from', 'to'], key: ['entity', 'from'] },
];

/** What groups, their partners and open items need: new tables, more columns, and files that are attached. */
export class Migration0015GroupTables extends Migration {
  override up(): void {
    const statements = [
      ...WIDENED.flatMap(([table, added]) => widened(table, added)),
      ...MADE.flatMap((table) => made(table)),
      ...['document_type', 'due', 'settles'].map(
        (column) => `alter table \`journal_line\` add column \`${column}\` text not null default '';`,
      ),
      'create table `attachment_file` (`sha256` text not null primary key, `bytes` blob not null);',
    ];
    for (const statement of statements) this.addSql(statement);
  }
}
