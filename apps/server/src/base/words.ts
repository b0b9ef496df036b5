/**
 * What the server says to people: parts of its sentences, names of what it checks, words of its history. Here and in the
 * catalogue of errors beside it, so that one thing is called by one name; `test/words-in-one-place.test.ts` holds it so.
 * Parts of sentences begin small and end without a full stop.
 */
import type { EvidenceRow, EvidenceSum, ExplainedView } from '@margin-lens/contract';
import { dayInWords, inWords, withinSentence, sentenceCase, type FiscalPeriod, countText } from '@margin-lens/core';

/** What someone may do: “{person} may not …”. */
export const RIGHTS_IN_WORDS = {
  read: 'read the workspace',
  see_totals: 'see totals that include what they may not see by itself',
  take_out: 'take the whole workspace out as a package',
  bring_in: 'bring in deliveries and undo them',
  adjust: 'post adjustments',
  open_and_close_periods: 'open and close periods',
  set_up: 'change the setup',
  shape: 'change layouts and statements',
  plan: 'make versions and change their figures',
  approve: 'approve and lock versions',
  remark: 'write remarks and marks',
} as const;

export const SEE_ALL_ENTITIES = 'see all entities';

/** What was done, for the history of the books. */
export const booksDone = {
  delivery: (name: string) => `import ${name}`,
  undone: (name: string) => `undo import ${name}`,
  adjusted: (reason: string) => `adjustment: ${reason}`,
  setUp: (table: string) => `set up ${table}`,
  other: (kind: string, subject: string) => `${inWords(kind)} ${subject}`.trim(),
};

/** What is wrong with a file, an upload or a request. */
export const fileWrong = {
  missing: 'it does not exist',
  notChecked: 'its check gave nothing',
  otherTables: 'it has other tables',
  noZip: 'it does not begin like a zip file',
  encrypted: 'it is encrypted',
  nameTwice: 'a name stands twice',
  tooManyFiles: (most: number) => `there are more than ${most} files`,
  bomb: (times: number) => `it would unpack to ${times} times its size`,
  largerThan: (megabytes: number) => `it is larger than ${megabytes} MB`,
  encoding: 'it is not in the encoding that it names',
  entities: 'it declares XML entities',
  tooDeep: (levels: number) => `elements stand more than ${levels} deep in each other`,
  endless: 'a text or a tag does not end',
  noWorkbook: 'no workbook',
  textTooLong: 'a text is too long',
  tooManyTexts: 'there are too many texts',
  rowBeyond: 'a row stands beyond the last one that there can be',
  cellBeyond: 'a cell stands beyond the last column that there can be',
  tooManyCells: (millions: number) => `there are more than ${millions} million cells`,
};

export const requestWrong = {
  nullInText: 'a text holds a null character',
  nullInName: 'a name holds a null character',
  textTooLong: (characters: number) => `a text is longer than ${countText(characters)} characters`,
  tooDeep: (levels: number) => `objects stand more than ${levels} deep in each other`,
  otherDocument: 'the address names another document than the body',
  breakdown: 'what is broken down by what is not as the schema of breakdowns has it',
};

/** Files in words. */
export const fileWords = {
  workspace: 'the workspace file',
  whole: 'The file',
  document: 'the document',
  several: (count: number) => `${count} files`,
  upload: 'the server takes in one go',
  line: (line: number) => `line ${line}`,
  lines: (from: number, to: number) => `lines ${from}–${to}`,
  someLines: (count: number, named: string) => `${count === 1 ? 'Line' : 'Lines'} ${named}`,
  areEmpty: (count: number) => (count === 1 ? 'is empty and was' : 'are empty and were'),
};

/** How lines of a journal changed that was delivered once more. */
export const LINES_GONE = 'gone or changed';
export const LINES_CAME = 'new or changed';

/** What a name was expected to be: “There is no … {text}”. */
export const expected = {
  dimension: 'dimension',
  valueOf: (dimension: string) => `value of ${inWords(dimension)}`,
  valueAbove: 'value above',
  drawnRow: 'row to be drawn',
  field: 'field to break figures down by',
  allocation: 'allocation',
  balanceAccount: 'balance-sheet account',
};

/** A journal that is written by hand, where others have a number. */
export const BY_HAND = 'by hand';
export const NOT_PERMITTED = 'not permitted';
export const JOURNAL_LINES = 'Journal lines';
/** Head of the account that an entity's own books have. */
export const OWN_ACCOUNT = 'Own account';

/** Statements that a first load makes. */
export const statementNames = {
  income: 'Income statement',
  balanceSheet: 'Balance sheet',
  cashFlow: 'Cash flow statement',
};

/** A value that a posting is read with, and what says so. */
export const completedWords = (dimension: string, value: string, completion: string, rule: number): string =>
  `${sentenceCase(dimension)} ${value} by rule ${rule} of “${completion}”`;

/** Dimension values in words. */
export const valueWords = {
  consolidated: 'consolidated',
  upTo: (names: string, day: string) => `${names} to ${day}`,
  entities: (count: number) => `${count} entities`,
  none: 'without dimensions',
  noStep: 'No step says yet whose costs go to whom.',
  without: (dimension: string) => `no ${inWords(dimension)}`,
  heading: (dimension: string) => sentenceCase(valueWords.without(dimension)),
  only: (parts: readonly string[]) => `only ${parts.join(', ')}`,
  spread: (allocation: string) => `costs spread: ${allocation}`,
  organisedThen: 'values organised as they were in each column',
  anyOf: (names: readonly string[]) => names.join(' or '),
  allBut: (names: readonly string[]) => `all but ${names.join(', ')}`,
  between: (from: string, to: string) =>
    from === '' ? `up to ${to}` : to === '' ? `from ${from}` : `${from} to ${to}`,
  onDays: (from: string, to: string): string => `postings ${valueWords.between(from, to)}`,
  containing: (text: string) => `with “${text}” in it`,
  largest: (field: string, count: string) =>
    count === '1' ? `the largest ${field}` : `the ${count} largest by ${field}`,
  withAny: (dimension: string) => `with a ${inWords(dimension)}`,
  withNone: (dimension: string) => `without a ${inWords(dimension)}`,
  first: (name: string, count: number) => `${name} (first ${count})`,
  /** Months that are many are not all named. */
  months: (names: readonly string[]) =>
    names.length <= 4 ? names.join(', ') : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`,
  brokenDown: (what: string, down: readonly string[], across: readonly string[]) =>
    [
      `${what}${down.length > 0 ? ` by ${down.join(', then ')}` : ''}`,
      across.length > 0 ? `across ${across.join(', then ')}` : '',
    ]
      .filter(Boolean)
      .join(', '),
};

/** Why a change cannot be told apart, and what its parts are; whole sentences. */
export const bridgeWords = {
  ofRates: {
    business: 'Business, at the rates of the other side',
    rate: 'Exchange rates',
    group: 'Entities that came or went',
  },
  noRates: 'The sides of this change have scopes or currencies of their own, so that rates cannot be told apart.',
  noQuantities: 'There are no quantities on both sides to tell price and volume apart.',
  noSum: (row: string) => `${row} is no sum of accounts, so its change cannot be told apart by them.`,
  plannedHigher: (versions: readonly string[], dimension: string) =>
    `${versions.join(' and ')} plans some of it at a higher level, without ${inWords(dimension)}; that stands under “${valueWords.heading(dimension)}”.`,
  withoutValues: (version: string, dimension: string) =>
    `${version} has no ${inWords(dimension)} here, so that the change cannot be told apart by it.`,
  noGroup: (entity: string) => `${entity} heads no group, so that there are no entities to tell it apart by.`,
  oneEntity: (group: string) => `${group} consolidates one entity alone.`,
  noSumOfEntities: (row: string, group: string) => `${row} is no sum of what the entities of ${group} bring in.`,
  notAllSeen: (group: string) => `You may not see all entities of ${group}.`,
  alwaysOne: 'This statement is always read for one entity.',
  missing: (scope: string, why: string) => `The figure of ${scope} cannot be told: ${withinSentence(why)}.`,
  bringRates: 'Bring rates in under Deliveries, or choose a span that ends sooner.',
  basis: (group: string, currency: string) =>
    `This is the figure of ${group}: all entities that it consolidates, with eliminations, in ${currency}, each month at its average rate.`,
  apart: (period: string, entities: readonly string[]) =>
    `Not consolidated in full in ${period}: ${entities.join(', ')}.`,
};

/** What two sides of a tie-out are. */
export const tieOutWords = {
  balancesAndLines: 'Balances and journal lines',
  statementsAndBalances: 'Statements and balances',
  debitsOfBalances: 'Debits in the balances',
  debitsOfLines: 'Debits of the journal lines',
  debitsOfStatements: 'Debits that statements read',
};

/** What a check of the whole workspace holds, and what it found. */
export const checkWords = {
  journals: (entity: string, basis: string) => `Journals of ${entity}, ${basis}`,
  sides: (debits: string, credits: string, off: bigint) =>
    `debits ${debits}, credits ${credits}${off === 0n ? '' : `, ${off} journals out of balance`}`,
  balances: 'Balances are the sums of their lines',
  versions: 'Balances of versions are the sums of their figures',
  read: 'What statements read are the balances and figures',
  numbers: 'Journal numbers stand once in a year of an entity',
  documents: 'Layouts and statements can be read',
  allGood: 'every one',
  differ: (balances: number) => `${balances} balances differ`,
  twice: (number: string, entity: string) => `${number} of ${entity} stands more than once`,
};

/** What stands on a row of master data: many of it, one of it. */
const USES: Readonly<Record<string, readonly [many: string, one: string]>> = {
  entities: ['entities', 'entity'],
  groups: ['groups', 'group'],
  ownership: ['ownership', 'ownership'],
  acquisitions: ['acquisitions', 'acquisition'],
  period_status: ['period status', 'period status'],
  cash_flow: ['cash flow lines', 'cash flow line'],
  historical: ['historical amounts', 'historical amount'],
  eliminations: ['eliminations', 'elimination'],
  accounts: ['accounts', 'account'],
  versions: ['versions', 'version'],
  journals: ['journals', 'journal'],
  journal_lines: ['journal lines', 'journal line'],
  balances: ['balances', 'balance'],
  figures: ['figures of versions', 'figure of versions'],
  row_layouts: ['row layouts', 'row layout'],
  values_below: ['values below it', 'value below it'],
};

/** A kind of use by the table that it is in. @example 'journal lines' */
export const usedAs = (table: string, count: number): string =>
  (USES[table] ?? [inWords(table), inWords(table)])[count === 1 ? 1 : 0];

export const rowsFollow = (layout: string): string => `The rows “${layout}” follow the new names of headings.`;

/** What stands around a page on paper. */
export const paperWords = {
  made: (at: Date) => `made ${at.toISOString().slice(0, 16).replace('T', ' ')} UTC`,
  sheet: (sheet: number, of: number) => `page ${sheet} of ${of}`,
};

/** What has to be so before figures are issued, and what is not. */
export const issueCheckWords = {
  name: {
    delivered: 'Books are there for the month',
    books: 'Books are fit to report on',
    tie_outs: 'All tie-outs agree',
    rates: 'Rates are complete',
    pairs: 'Entities agree with each other',
    group: 'The group is told in full',
    evidence: 'Balances are held against evidence',
    versions: 'Versions are approved',
    exceptions: 'Variances are explained',
    pages: 'Every page can be read',
    tasks: 'The checklist is done',
    closed: 'The month is closed to postings',
  },
  off: (off: number, of: number) => `${off} of ${of} do not agree`,
  nothingPosted: (entity: string) => `nothing is posted in ${entity}`,
  findings: (count: number) => (count === 1 ? 'one finding to look at' : `${count} findings to look at`),
  evidence: (entity: string, without: number, differing: number) =>
    [
      ...(entity === '' ? [] : [`${entity}:`]),
      [
        ...(without === 0 ? [] : [`${without} without evidence`]),
        ...(differing === 0 ? [] : [differing === 1 ? 'one differs' : `${differing} differ`]),
      ].join(', '),
    ].join(' '),
  task: (name: string, owner: string, due: string, isLate: boolean) =>
    [name, ...(owner === '' ? [] : [owner]), `${isLate ? 'late, was due' : 'due'} ${dayInWords(due)}`].join(' · '),
  takesPostings: (entities: readonly string[]) =>
    entities.length === 1 ? `${entities[0]} still takes postings` : `${entities.length} entities still take postings`,
  unsettled: (version: string, state: string) => `${version} is ${state === 'draft' ? 'a draft' : state}`,
  toExplain: (count: number, statement: string) => `${count} to explain in ${statement}`,
  more: (count: number) => `and ${count} more`,
};

/** What is read of the pages of a pack. */
export const packWords = {
  proposed: 'Monthly pack',
  actual: 'Actual',
  kind: {
    cover: 'Cover',
    contents: 'Contents',
    section: 'Section',
    figures: 'Statement',
    breakdown: 'Breakdown',
    chart: 'Chart',
    exceptions: 'What moved',
    underlying: 'Underlying result',
    balances: 'Balances and evidence',
    shared: 'Page of another pack',
    tiles: 'Key figures',
    text: 'Text',
  },
  span: { period: 'in the month', year_to_date: 'year to date', full_year: 'full year' },
  upTo: (month: string) => `year to ${month}`,
  nothingYet: (month: string) => `Nothing is posted for ${month} yet, so that nothing is compared.`,
  unit: { 1: 'whole units', 1000: 'thousands', 1_000_000: 'millions' },
  asAt: ({ end }: Pick<FiscalPeriod, 'end'>) => `as at ${dayInWords(end)}`,
  notMade: (problem: string) => `This page could not be made. ${problem}`,
  wrongPage: (title: string, problem: string) => `“${title}” could not be made: ${problem}`,
  exceptions: (statement: string) => `${statement}: what moved`,
  underlying: (result: string) => `${result}, reported to underlying`,
  explained: {
    timing: 'Timing',
    permanent: 'Permanent',
    one_off: 'One-off',
    rest: 'Not told by a remark',
  },
  /** A matter of timing in the month that was to give it back. */
  timing: ({ label, text, amount, returns }: ExplainedView, money: (minor: number) => string) => {
    const { name, state, observed } = returns!;
    const came =
      observed === null || state === 'not_returned' ? 'has not come back yet' : `came back with ${money(observed)}`;
    return `${label}: ${money(amount)}, expected back in ${name}, ${came}${state === 'in_part' ? ', in part' : ''}. ${text}`;
  },
  late: (count: number) =>
    count === 1 ? 'one matter of timing has not come back' : `${count} matters of timing have not come back`,
  openBalances: (count: number) => (count === 1 ? 'one balance is open' : `${count} balances are open`),
  settled: ({ accounts, open, differing }: Pick<EvidenceSum, 'accounts' | 'open' | 'differing'>) =>
    [
      `${accounts - open} of ${accounts} balances are settled`,
      ...(differing === 0 ? [] : [differing === 1 ? 'one differs' : `${differing} differ`]),
    ].join(', '),
  balance: ({ state, since, was, evidence, before }: EvidenceRow) => {
    if (state === 'agrees' && was === null) return '';
    if (state === 'not_needed') return '';
    const owner = evidence?.owner ?? before?.owner ?? '';
    return [
      { open: 'no evidence yet', agrees: 'agrees', differs: `differs since ${since}`, accepted: 'differs, and may' }[
        state
      ],
      ...(was === null ? [] : ['the balance has moved since']),
      ...(owner === '' ? [] : [owner]),
      ...(evidence?.note ? [evidence.note] : []),
    ].join(' · ');
  },
  misplaced: (count: number) =>
    count === 1 ? 'one account has no row of its own' : `${count} accounts have no row of their own`,
  toExplain: (count: number) => `${count} to explain`,
  leftOut: (dimension: string, parts: readonly string[]) =>
    `Postings without ${dimension} are not on this page: ${parts.join('; ')}.`,
  proposedRemarks: (count: number) =>
    count === 1 ? 'one was explained last month' : `${count} were explained last month`,
  moved: (count: number) => (count === 1 ? 'a figure moved' : `${count} figures moved`),
  was: (shown: string) => `was ${shown}`,
  gone: 'no longer there',
  against: (name: string) => `against ${name}`,
  unfiltered: 'without the filter',
  shared: (pack: string) => `as in ${pack}`,
  names: (name: string) => `names ${name}`,
  readFor: (name: string) => `is read for ${name}`,
  everySheet: 'Every sheet',
  allocation: 'an allocation of its own',
  organised: 'values organised in another way',
};
