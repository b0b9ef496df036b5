interface CodeEntry {
  severity: 'error' | 'notice';
  template: string;
  hint: string;
}

const entry = (severity: CodeEntry['severity'], template: string, hint: string): CodeEntry => ({
  severity,
  template,
  hint,
});
const error = (template: string, hint: string) => entry('error', template, hint);
const notice = (template: string, hint: string) => entry('notice', template, hint);

/**
 * The catalogue of findings of the core. A code once released is never used again for something else.
 * `docs/errors.md` is generated from it.
 */
export const ISSUE_CODES = {
  // reading the package
  CORE_PACKAGE_FILE_MISSING: error('The package has no {file}.', 'Add the file; see docs/formats.md for its columns.'),
  CORE_PACKAGE_FILE_UNKNOWN: notice(
    '{file} is not a file of a ledger package and was not read.',
    'Remove it, or rename it if it was meant to be read.',
  ),
  CORE_PACKAGE_JSON_INVALID: error(
    '{file} does not hold what is expected: {problem}.',
    'Correct the file; its shape is in docs/formats.md.',
  ),
  CORE_TABLE_EMPTY: error(
    'The file is empty; not even a header line was found.',
    'Deliver the file with a header line, or leave it out.',
  ),
  CORE_TABLE_COLUMN_MISSING: error(
    'The column “{column}” is missing.',
    'Add the column; its place among the others does not matter.',
  ),
  CORE_TABLE_COLUMN_UNKNOWN: notice(
    'The column “{column}” is not known and was not read.',
    'Nothing needs to be done if that is intended.',
  ),
  CORE_TABLE_COLUMN_TWICE: error('The column “{column}” stands twice in the header.', 'Keep one of the two.'),
  CORE_TABLE_ROW_WIDTH: error(
    'The row has {found} fields, the header {expected}.',
    'Look for a missing or extra comma, or for a quotation mark that is not closed.',
  ),
  CORE_TABLE_QUOTES: error(
    'A quotation mark is not closed: {problem}.',
    'Close the quotation mark, or double it where it belongs to the text.',
  ),
  CORE_TABLE_ENCODING: error('The file is not UTF-8 text.', 'Save it as UTF-8.'),
  // cells
  CORE_CELL_EMPTY: error('{column} is empty.', 'Every row needs a value here.'),
  CORE_CELL_NUMBER: error(
    '“{text}” is not a number.',
    'Write plain digits with a point for decimals, without thousands separators: 1234.50.',
  ),
  CORE_CELL_DECIMALS: error(
    '{text} has more than {digits} decimals.',
    '{unit} has {digits} decimals; nothing is rounded on the way in.',
  ),
  CORE_CELL_TOO_LARGE: error(
    '{text} is larger than can be kept exactly.',
    'Amounts up to 9,007,199,254,740,991 minor units are accepted.',
  ),
  CORE_CELL_NEGATIVE: error(
    '{text} is negative; debit and credit carry no sign.',
    'Put the amount without its sign into the other column.',
  ),
  CORE_CELL_INTEGER: error('“{text}” is not a whole number.', 'Write digits only.'),
  CORE_CELL_DATE: error('“{text}” is not a date of the calendar.', 'Write dates as YYYY-MM-DD.'),
  CORE_CELL_PERIOD: error('“{text}” is not a period.', 'Write periods as FY2027-P05.'),
  CORE_CELL_CHOICE: error('“{text}” is not one of {choices}.', 'Use one of the listed words.'),
  CORE_CELL_CURRENCY: error('“{text}” is not a currency code of ISO 4217.', 'Use the three-letter code, such as EUR.'),
  CORE_ROW_TWICE: error('{key} stands twice in this file, first on line {first}.', 'Keep one of the two rows.'),
  CORE_FIGURE_TWICE: error(
    'The version already has a figure for this account, period and combination of dimension values in this file.',
    'Add the two up, or keep one.',
  ),
  CORE_REFERENCE_UNKNOWN: error('There is no {what} “{text}”.', 'Add it to {file}, or correct the code.'),
  // calendar
  CORE_PERIOD_OVERLAP: error(
    '{period} begins on {start}, before {previous} has ended.',
    'Regular periods of a calendar follow one another without overlap.',
  ),
  CORE_PERIOD_GAP: error(
    'Between {previous} and {period} some days belong to no period.',
    'Regular periods of a calendar follow one another without a gap.',
  ),
  CORE_PERIOD_REVERSED: error('{period} ends before it begins.', 'Exchange start and end.'),
  // journals
  CORE_JOURNAL_DATE_OUTSIDE: error(
    '{date} lies in no period of the calendar {calendar}.',
    'Correct the date, or add the period to calendars.csv.',
  ),
  CORE_JOURNAL_PERIOD_DATE: error(
    '{date} does not lie in {period}.',
    'Correct the date or the period; only adjustment periods share dates with another period.',
  ),
  CORE_JOURNAL_BOTH_SIDES: error('Debit and credit are both filled.', 'A line has one of the two.'),
  CORE_JOURNAL_STATISTIC_AMOUNT: error(
    'Account {account} is a statistic and takes no debit or credit.',
    'Put the figure into the column quantity.',
  ),
  CORE_JOURNAL_KIND_MIXED: error(
    'Journal {journal} of {entity} has lines of more than one kind.',
    'A journal is normal, opening or closing as a whole.',
  ),
  CORE_JOURNAL_LINE_TWICE: error(
    'Line {line} of journal {journal} of {entity} stands twice.',
    'Number the lines of a journal without repeating.',
  ),
  CORE_JOURNAL_UNBALANCED: error(
    'Journal {journal} of {entity} is off by {difference} {currency} in basis {basis}.',
    'Debits and credits of a journal must agree within an entity and a basis; look for a missing line.',
  ),
  CORE_JOURNAL_CHANGED: error(
    'Journal {journal} of {entity} ({year}) is already in the books with other content: {what}.',
    'Deliver the journal as it was, or correct it with a journal of its own.',
  ),
  CORE_ELIMINATION_UNBALANCED: error(
    'Elimination {journal} of {group} is off by {difference} {currency}.',
    'Debits and credits of an elimination must agree.',
  ),
  CORE_ENTITY_CURRENCY_CHANGED: error(
    '{entity} keeps its books in {before}; the file says {now}.',
    'An entity with postings keeps its currency; deliver a new entity for the new currency.',
  ),
  CORE_OWNERSHIP_RANGE: error('{text} is not a percentage between 0 and 100.', 'Write 80 for 80 %.'),
  CORE_RATE_NOT_POSITIVE: error(
    '{text} is not a rate above zero.',
    'One unit of base is worth a positive number of units of quote.',
  ),
  // documents and evaluation
  CORE_DOCUMENT_INVALID: error(
    '{file} is not a document of this application: {problem}.',
    'The schemas are in docs/schemas.',
  ),
  CORE_LAYOUT_UNKNOWN_ID: error(
    '“{from}” names “{id}”, which is not in the layout.',
    'Name a row or column of the same layout.',
  ),
  CORE_LAYOUT_CYCLE: error(
    'These rows depend on each other in a circle: {rows}.',
    'Take one of them out of the formula of the other.',
  ),
  CORE_LAYOUT_ID_TWICE: error(
    'The id “{id}” stands twice in the layout.',
    'Give every row and column an id of its own.',
  ),
  CORE_AMOUNT_OVERFLOW: error(
    'The sum of {where} is larger than can be kept exactly.',
    'Look at a narrower scope or span.',
  ),
} as const satisfies Record<string, CodeEntry>;

export type IssueCode = keyof typeof ISSUE_CODES;
