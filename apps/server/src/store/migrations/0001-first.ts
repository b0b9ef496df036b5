import { Migration } from '@mikro-orm/migrations';

/** The first schema. Balances are kept without a rowid: they are read by the front of their key, a slice at a time. */
const STATEMENTS = [
  'create table `account` (`row_id` integer not null primary key autoincrement, `id` integer not null, `number` text not null, `name` text not null, `nature` text not null, `category` text not null, `subcategory` text not null, `role` text not null, `translation` text not null, `monetary` text not null, `intercompany` text not null, `behaviour` text not null, `better` text not null, `unit` text not null, `decimals` integer null, `since` integer not null, `until` integer null);',
  'create unique index `account_number_since_unique` on `account` (`number`, `since`);',
  'create table `acquisition` (`row_id` integer not null primary key autoincrement, `id` integer not null, `investor` text not null, `investee` text not null, `date` text not null, `consideration` text not null, `nci_method` text not null, `nci_fair_value` text not null, `item` text not null, `account` text not null, `local_amount` text not null, `life_months` integer null, `since` integer not null, `until` integer null);',
  'create unique index `acquisition_investor_investee_date_item_account_since_unique` on `acquisition` (`investor`, `investee`, `date`, `item`, `account`, `since`);',
  'create table `balance` (`version` integer not null, `entity` integer not null, `period` integer not null, `account` integer not null, `combination` integer not null, `basis` integer not null, `entry_kind` integer not null, `debit` bigint not null, `credit` bigint not null, `quantity` bigint not null, primary key (`version`, `entity`, `period`, `account`, `combination`, `basis`, `entry_kind`)) without rowid;',
  'create table `cash_flow_line` (`row_id` integer not null primary key autoincrement, `id` integer not null, `account` text not null, `flow` text not null, `line` text not null, `factor` text not null, `since` integer not null, `until` integer null);',
  'create unique index `cash_flow_line_account_flow_line_since_unique` on `cash_flow_line` (`account`, `flow`, `line`, `since`);',
  'create table `combination` (`id` integer not null primary key autoincrement, `parts` text not null);',
  'create unique index `combination_parts_unique` on `combination` (`parts`);',
  'create table `dimension_value` (`row_id` integer not null primary key autoincrement, `id` integer not null, `dimension` text not null, `value` text not null, `name` text not null, `parent` text not null, `since` integer not null, `until` integer null);',
  'create unique index `dimension_value_dimension_value_since_unique` on `dimension_value` (`dimension`, `value`, `since`);',
  'create table `elimination_line` (`row_id` integer not null primary key autoincrement, `id` integer not null, `group` text not null, `journal` text not null, `kind` text not null, `line` integer null, `period` text not null, `entity` text not null, `partner` text not null, `account` text not null, `debit` text not null, `credit` text not null, `rule` text not null, `reason` text not null, `since` integer not null, `until` integer null);',
  'create unique index `elimination_line_group_journal_line_since_unique` on `elimination_line` (`group`, `journal`, `line`, `since`);',
  'create table `entity` (`row_id` integer not null primary key autoincrement, `id` integer not null, `code` text not null, `name` text not null, `currency` text not null, `calendar` text not null, `since` integer not null, `until` integer null);',
  'create unique index `entity_code_since_unique` on `entity` (`code`, `since`);',
  'create table `entity_group` (`row_id` integer not null primary key autoincrement, `id` integer not null, `code` text not null, `name` text not null, `currency` text not null, `calendar` text not null, `top_entity` text not null, `parent_group` text not null, `since` integer not null, `until` integer null);',
  'create unique index `entity_group_code_since_unique` on `entity_group` (`code`, `since`);',
  'create table `fiscal_period` (`row_id` integer not null primary key autoincrement, `id` integer not null, `calendar` text not null, `fiscal_year` integer null, `period` integer null, `label` text not null, `start` text not null, `end` text not null, `kind` text not null, `quarter` integer null, `since` integer not null, `until` integer null);',
  'create unique index `fiscal_period_calendar_fiscal_year_period_since_unique` on `fiscal_period` (`calendar`, `fiscal_year`, `period`, `since`);',
  'create table `historical_amount` (`row_id` integer not null primary key autoincrement, `id` integer not null, `entity` text not null, `account` text not null, `date` text not null, `local_amount` text not null, `group_amount` text not null, `since` integer not null, `until` integer null);',
  'create unique index `historical_amount_entity_account_date_since_unique` on `historical_amount` (`entity`, `account`, `date`, `since`);',
  'create table `import_run` (`id` integer not null primary key autoincrement, `revision` integer not null, `file_name` text not null, `digest` text not null, `person` text not null, `started_at` text not null, `finished_at` text not null, `counts` text not null);',
  'create index `import_run_digest_index` on `import_run` (`digest`);',
  'create table `journal` (`id` integer not null primary key autoincrement, `entity` integer not null, `fiscal_year` integer not null, `number` text not null, `kind` integer not null, `since` integer not null, `until` integer null);',
  'create unique index `journal_entity_fiscal_year_number_since_unique` on `journal` (`entity`, `fiscal_year`, `number`, `since`);',
  'create table `journal_line` (`id` integer not null primary key autoincrement, `journal` integer not null, `line` integer not null, `date` text not null, `entity` integer not null, `period` integer not null, `account` integer not null, `basis` integer not null, `debit` bigint not null, `credit` bigint not null, `currency` text not null, `currency_amount` bigint null, `quantity` bigint not null, `combination` integer not null, `description` text not null, `document` text not null, `source_line` integer not null);',
  'create index `journal_line_of_account` on `journal_line` (`account`, `entity`, `period`);',
  'create unique index `journal_line_of_journal` on `journal_line` (`journal`, `line`);',
  'create table `ownership` (`row_id` integer not null primary key autoincrement, `id` integer not null, `investor` text not null, `investee` text not null, `from` text not null, `percent` text not null, `method` text not null, `since` integer not null, `until` integer null);',
  'create unique index `ownership_investor_investee_from_since_unique` on `ownership` (`investor`, `investee`, `from`, `since`);',
  'create table `period_status` (`row_id` integer not null primary key autoincrement, `id` integer not null, `entity` text not null, `period` text not null, `status` text not null, `since` integer not null, `until` integer null);',
  'create unique index `period_status_entity_period_since_unique` on `period_status` (`entity`, `period`, `since`);',
  'create table `rate` (`row_id` integer not null primary key autoincrement, `id` integer not null, `set` text not null, `base` text not null, `quote` text not null, `period` text not null, `date` text not null, `type` text not null, `rate` text not null, `since` integer not null, `until` integer null);',
  'create unique index `rate_set_base_quote_period_date_type_since_unique` on `rate` (`set`, `base`, `quote`, `period`, `date`, `type`, `since`);',
  'create table `document` (`row_id` integer not null primary key autoincrement, `kind` text not null, `id` text not null, `body` text not null, `since` integer not null, `until` integer null);',
  'create unique index `document_kind_id_since_unique` on `document` (`kind`, `id`, `since`);',
  'create table `version` (`row_id` integer not null primary key autoincrement, `id` integer not null, `code` text not null, `name` text not null, `kind` text not null, `from_period` text not null, `to_period` text not null, `cut_over` text not null, `parent` text not null, `state` text not null, `rate_set` text not null, `rank` integer null, `since` integer not null, `until` integer null);',
  'create unique index `version_code_since_unique` on `version` (`code`, `since`);',
  'create table `figure` (`id` integer not null primary key autoincrement, `version` integer not null, `entity` integer not null, `account` integer not null, `period` integer not null, `combination` integer not null, `amount` bigint not null, `quantity` bigint not null, `since` integer not null, `until` integer null);',
  'create unique index `figure_key` on `figure` (`version`, `entity`, `account`, `period`, `combination`, `since`);',
  'create table `workspace_revision` (`id` integer not null primary key autoincrement, `at` text not null, `person` text not null, `action` text not null);',
];

export class Migration0001First extends Migration {
  override up(): void {
    for (const statement of STATEMENTS) this.addSql(statement);
  }
}
