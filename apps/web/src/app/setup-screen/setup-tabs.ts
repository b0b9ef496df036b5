export interface SetupTab {
  path: string;
  label: string;
  /** What people who look for it may call it. */
  words: string;
}

export const SETUP_TABS: readonly SetupTab[] = [
  { path: 'accounts', label: 'Accounts', words: 'chart of accounts headings classification' },
  { path: 'entities', label: 'Entities', words: 'companies subsidiaries currencies' },
  { path: 'calendars', label: 'Calendars', words: 'fiscal year periods' },
  { path: 'working-days', label: 'Working days', words: 'holidays' },
  { path: 'dimensions', label: 'Dimensions', words: 'departments products channels projects' },
  { path: 'attributes', label: 'Attributes', words: 'manager site responsible person of values departments products' },
  { path: 'rates', label: 'Rates', words: 'exchange spot closing average of a day dated' },
  { path: 'account-map', label: 'Account map', words: 'local accounts mapping chart of an entity' },
  { path: 'value-map', label: 'Value map', words: 'local dimension values mapping' },
  { path: 'calendar-map', label: 'Period map', words: 'calendars periods of other fiscal years alignment' },
  { path: 'standing-rules', label: 'Standing rules', words: 'intercompany what meets between entities tolerance' },
  { path: 'stock-held', label: 'Stock held', words: 'unrealised profit margin inventories' },
  { path: 'eliminations', label: 'By hand', words: 'elimination journals of a group manual consolidation' },
  { path: 'source-links', label: 'Documents', words: 'links invoices archive source vouchers receipts of journals' },
  { path: 'workspace', label: 'Workspace', words: 'settings materiality limits reporting currency' },
];
