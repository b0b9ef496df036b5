/** A place of the application: where it stands in the spine, what it is called, and the words people use for it. */
export interface Place {
  group: 'Report' | 'Plan' | 'Group' | 'Books';
  name: string;
  path: string;
  /** What people who look for it may call it. */
  words: string;
  /** Beside it stands how much there is to look at. */
  counts?: 'findings' | 'untied';
}

/** All places, as they stand in the spine; documents are found inside them. */
const PLACES: readonly Place[] = [
  {
    group: 'Report',
    name: 'Packs',
    path: '/packs',
    words: 'reporting pack board book management report print pages pdf presentation slides month-end',
  },
  {
    group: 'Report',
    name: 'Month end',
    path: '/month-end',
    words: 'closing checklist tasks working days who is late ready to issue sign off calendar owners',
  },
  {
    group: 'Report',
    name: 'Statements',
    path: '/statements',
    words: 'reports income statement profit and loss p&l balance sheet cash flow rows columns layouts library folders',
  },
  {
    group: 'Report',
    name: 'Breakdowns',
    path: '/breakdowns',
    words: 'pivot dimensions analysis slice drill cross table by product customer department channel',
  },
  { group: 'Plan', name: 'Versions', path: '/versions', words: 'plan budget forecast outlook scenario branch' },
  {
    group: 'Plan',
    name: 'Exceptions',
    path: '/exceptions',
    words: 'variances to explain materiality limits thresholds what is off',
  },
  {
    group: 'Group',
    name: 'Structure',
    path: '/structure',
    words: 'ownership holdings subsidiaries associates consolidation who holds whom shareholding effective interest',
  },
  {
    group: 'Group',
    name: 'Readiness',
    path: '/readiness',
    words: 'closing status monitor deliveries month-end progress who is late checklist steps entities',
  },
  {
    group: 'Group',
    name: 'Rates',
    path: '/rates',
    words: 'exchange currency fx closing average historical reference ecb central bank conversion',
  },
  {
    group: 'Group',
    name: 'Translation',
    path: '/translation',
    words: 'cta currency translation adjustment reserve proof roll-forward exchange differences oci',
  },
  {
    group: 'Group',
    name: 'Between entities',
    path: '/between-entities',
    words: 'intercompany reconciliation matrix balances receivables payables differences documents agree partners',
  },
  {
    group: 'Group',
    name: 'Eliminations',
    path: '/eliminations',
    words:
      'consolidation intercompany goodwill minorities non-controlling interests unrealised profit dividends journals',
  },
  {
    group: 'Group',
    name: 'Mapping',
    path: '/mapping',
    words: 'local chart of accounts statutory unmapped alignment assign own accounts values calendars',
  },
  { group: 'Books', name: 'Deliveries', path: '/deliveries', words: 'import upload bring in files ledger package' },
  { group: 'Books', name: 'Ledger', path: '/ledger', words: 'general ledger trial balance accounts balances' },
  { group: 'Books', name: 'Adjustments', path: '/adjustments', words: 'manual journals accruals corrections post' },
  {
    group: 'Books',
    name: 'Allocations',
    path: '/allocations',
    words: 'shared costs overheads spread cost centres drivers keys step down direct reallocate',
  },
  {
    group: 'Books',
    name: 'Books check',
    path: '/books-check',
    words: 'suspense findings quality errors',
    counts: 'findings',
  },
  { group: 'Books', name: 'Tie-outs', path: '/tie-outs', words: 'checks proofs reconcile agree', counts: 'untied' },
  {
    group: 'Books',
    name: 'Evidence',
    path: '/evidence',
    words:
      'balance substantiation account reconciliation bank statement sub-ledger listing confirmation balance sheet proof',
  },
  { group: 'Books', name: 'Periods', path: '/periods', words: 'close open lock month year end' },
  {
    group: 'Books',
    name: 'Setup',
    path: '/setup',
    words: 'chart of accounts entities calendars dimensions workspace settings master data',
  },
];

/** The place that says something where there are no books: those are brought in there. */
export const WITHOUT_BOOKS = '/deliveries';

/** Places that can be gone to, as far as it is known whether there are books. */
export const placesFor = (hasBooks: boolean | undefined): readonly Place[] =>
  hasBooks ? PLACES : PLACES.filter(({ path }) => path === WITHOUT_BOOKS);

/** The place that an address is in. */
export const placeOf = (path: string): Place | undefined =>
  PLACES.find((place) => path === place.path || path.startsWith(`${place.path}/`));
