interface CodeEntry {
  /** A question leaves the decision to a person; until then nothing is written. */
  severity: 'error' | 'question' | 'notice';
  template: string;
  hint: string;
}

const entry = (severity: CodeEntry['severity'], template: string, hint: string): CodeEntry => ({
  severity,
  template,
  hint,
});
const error = (template: string, hint: string) => entry('error', template, hint);
const question = (template: string, hint: string) => entry('question', template, hint);
const notice = (template: string, hint: string) => entry('notice', template, hint);

/**
 * The catalogue of findings of the core. A code once released is never used again for something else.
 * `docs/errors.md` is generated from it.
 */
export const ISSUE_CODES = {
  // reading the package
  CORE_PACKAGE_FILE_MISSING: error('The package has no {file}.', 'Add the file; see docs/formats.md for its columns.'),
  CORE_PACKAGE_FILE_CHANGED: error(
    '{file} is not as datapackage.json says that it was written: it was cut off or changed.',
    'Make the package again; or, where the change was meant, take the hash of the file out of datapackage.json.',
  ),
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
  CORE_TABLE_NO_ROWS: error(
    'The file has a header and no lines.',
    'Export it again; it may have been filtered to nothing.',
  ),
  CORE_TABLE_BLANK_LINES: notice('{lines} {what} passed over.', 'Line numbers in findings stay those of the file.'),
  CORE_TABLE_ENCODING_READ: notice(
    'The file was read as {encoding}.',
    'Nothing needs to be done if its texts look right.',
  ),
  CORE_TABLE_ROW_LONG: error(
    'A row goes on for more than {limit} million characters.',
    'Look for a quotation mark on this line that is not closed.',
  ),
  CORE_TABLE_ENCODING: error('The file is not UTF-8 text.', 'Save it as UTF-8.'),
  // cells
  CORE_CELL_EMPTY: error('{column} is empty.', 'Every row needs a value here.'),
  CORE_CELL_NUMBER: error(
    '“{text}” is not a number.',
    'Write plain digits with a point for decimals, without thousands separators: 1234.50.',
  ),
  CORE_CELL_EXPONENT: error(
    '{text} is a number that a spreadsheet has shortened; its exact amount is lost.',
    'Show the column as a number with decimals in the spreadsheet and save the file again.',
  ),
  CORE_CELL_DECIMALS: error(
    '{text} has more than {digits} decimals.',
    '{unit} has {digits} decimals; nothing is rounded on the way in.',
  ),
  CORE_CELL_TOO_LARGE: error(
    '{text} is larger than can be kept exactly.',
    'Amounts up to 9,007,199,254,740,991 minor units are accepted.',
  ),
  CORE_CELL_INVISIBLE: error(
    'The {what} “{text}” carries a character that cannot be seen (U+{code}).',
    'Delete the cell and type the code anew.',
  ),
  CORE_CELL_CONTROL: error(
    'The cell holds a control character (U+{code}).',
    'The file is damaged, or is not text; export it again.',
  ),
  CORE_CELL_LONG: error('{column} has {length} characters; at most {limit} are kept.', 'Shorten the text.'),
  CORE_CELL_NEGATIVE: error(
    '{text} is negative; debit and credit carry no sign.',
    'Put the amount without its sign into the other column.',
  ),
  CORE_CELL_INTEGER: error('“{text}” is not a whole number.', 'Write digits only.'),
  CORE_CELL_DATE: error('“{text}” is not a date of the calendar.', 'Write dates as YYYY-MM-DD.'),
  CORE_CELL_PERIOD: error('“{text}” is not a period.', 'Write periods as FY2027-P05.'),
  CORE_CELL_CHOICE: error('“{text}” is not one of {choices}.', 'Use one of the listed words.'),
  CORE_CELL_CODE: error('“{text}” begins with neither a letter nor a digit.', 'Use another code.'),
  CORE_CELL_CURRENCY: error('“{text}” is not a currency code of ISO 4217.', 'Use the three-letter code, such as EUR.'),
  CORE_ROW_TWICE: error('{key} stands twice in this file, first on line {first}.', 'Keep one of the two rows.'),
  CORE_FIGURE_TWICE: error(
    'The version already has a figure for this account, period and combination of dimension values in this file.',
    'Add the two up, or keep one.',
  ),
  CORE_REFERENCE_UNKNOWN: error('There is no {what} “{text}”.', 'Add it to {file}, or correct the code.'),
  // foreign files
  CORE_FOREIGN_UNMAPPED: error(
    'No column gives {what}. The file has: {columns}.',
    'Say which column it is, or give one value for the whole file.',
  ),
  CORE_FOREIGN_CODE_NEW: error(
    'There is no {what} “{text}”.',
    'Say above which of ours is meant, or take it into the books with this file.',
  ),
  CORE_FOREIGN_CODE_UNKNOWN: error(
    'There is no {what} “{text}”.',
    'Say above which of ours is meant, or set it up before this file comes in.',
  ),
  CORE_FOREIGN_DECIMAL_UNCLEAR: question(
    'Is {text} a number with three decimals, or does it have thousands?',
    'Say which sign stands before the decimals.',
  ),
  CORE_FOREIGN_DATES_UNCLEAR: question(
    'Does {text} have the day first, or the month?',
    'Say in which order day and month stand.',
  ),
  CORE_FOREIGN_SHARE_UNCLEAR: question(
    '{text} is read as {text} %. Is that right?',
    'Say whether shares are percentages or fractions of one.',
  ),
  CORE_FOREIGN_ENCODING_UNCLEAR: question(
    'The file is not UTF-8. Read as Windows-1252, line {line} says: {text}. Is that right?',
    'Say in which encoding the file was saved.',
  ),
  CORE_FOREIGN_READ: notice('{words}, {times}, first on line {first}.', 'Nothing needs to be done if that is right.'),
  CORE_FOREIGN_FORMULA: notice(
    'Cell {cell} is a formula; its stored value was taken, the formula was not run.',
    'Recalculate and save the workbook if its value may be old.',
  ),
  CORE_FILE_TYPE: error(
    'The name ends in {ending}, but the content is {content}.',
    'Rename the file, or export it again.',
  ),
  CORE_FILE_DAMAGED: error('The file is damaged or was cut off.', 'Export it again.'),
  CORE_ARCHIVE_RATIO: error(
    'The file would unpack to {size} from {packed}; it was not unpacked.',
    'Files packed more than a hundredfold are not read.',
  ),
  CORE_ARCHIVE_PATH: error(
    'The archive names a file outside itself: {name}.',
    'Make the archive anew from its folder.',
  ),
  CORE_WORKBOOK_LIMIT: error(
    'The workbook is beyond what is read: {problem}.',
    'Copy the cells that are wanted into a new workbook.',
  ),
  CORE_XML_DOCTYPE: error('{part} declares XML entities.', 'Such files are not read; export it anew.'),
  CORE_AUDIT_FILE_OTHER: error(
    'This XML file is no audit file: it begins with “{root}”.',
    'Standard Audit Files for Tax (SAF-T) can be read; for others, export CSV or a workbook.',
  ),
  CORE_AUDIT_FILE_LACKS: error(
    'The audit file has no {part} that can be read: there is no {element} in it.',
    'Choose another part of the file above, or export it with its general ledger.',
  ),
  CORE_AUDIT_FILE_BROKEN: error('The XML cannot be read: {problem}.', 'Export the file again.'),
  CORE_AUDIT_FILE_TOTALS: error(
    'The file says that its {what} come to {told}; they come to {found}.',
    'It was cut or changed after it was made. Export it again.',
  ),
  // misuse
  CORE_ALLOCATE_NO_WEIGHT: error(
    'There is nothing to spread over: the weights sum to 0.',
    'Give weights that do not sum to 0.',
  ),
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
    'Line {line} of journal {journal} of {entity} stands twice, first on line {first} of the file.',
    'Number the lines of a journal without repeating.',
  ),
  CORE_JOURNAL_UNBALANCED: error(
    'Journal {journal} of {entity} ({lines}) is off by {difference} {currency} in basis {basis}.',
    'Debits and credits of a journal must agree within an entity and a basis; look for a missing line.',
  ),
  CORE_ADJUSTMENT_LINES: error('An adjustment has at least two lines.', 'Add the other side.'),
  CORE_ADJUSTMENT_SIGN: error(
    'The amount in {currency} has another sign than the line: {text}.',
    'A debit is positive in the currency of its document, too; a credit is negative.',
  ),
  CORE_ADJUSTMENT_UNBALANCED: error(
    'Debits and credits differ by {difference} {currency}.',
    'Correct an amount, or add the missing line.',
  ),
  CORE_JOURNAL_CURRENCY: error(
    'The amount of journal {journal} is in {currency}, the books of {entity} are in {own}.',
    'Give the amount in {own} too; amounts of two currencies are never added together.',
  ),
  CORE_JOURNAL_PERIOD_CLOSED: error(
    'Journal {journal} of {entity} posts to {period}, which is closed.',
    'Open the period again, with the right to do so, or date the journal into an open one.',
  ),
  CORE_JOURNAL_CHANGED: error(
    'Journal {journal} of {entity} ({year}) is already in the books with other content: {what}.',
    'Deliver the journal as it was, or correct it with a journal of its own.',
  ),
  CORE_ELIMINATION_UNBALANCED: error(
    'Elimination {journal} of {group} is off by {difference} {currency}.',
    'Debits and credits of an elimination must agree.',
  ),
  CORE_ENTITY_CALENDAR_CHANGED: error(
    '{entity} has postings by the calendar {before} and cannot change to {now}.',
    'Keep the calendar, or make a new entity for the new one.',
  ),
  CORE_PERIOD_DATES_IN_USE: error(
    '{period} of the calendar {calendar} holds {lines} lines that its new dates leave out, such as one of {date}.',
    'Keep the dates of periods with postings.',
  ),
  CORE_ACCOUNT_ROLE_TWICE: error(
    'Two accounts have the role {role}: {first} and {second}.',
    'Leave the role to one of them.',
  ),
  CORE_ACCOUNT_ROLE_UNKNOWN: notice(
    'No rule asks for an account of the role {role}, which {account} has.',
    'Look whether it is written as one of: {known}.',
  ),
  CORE_ACCOUNT_ROLE_NATURE: error(
    '{account} has the role {role} and cannot be of the nature {nature}.',
    'An account of that role is of the nature {natures}.',
  ),
  CORE_DIMENSION_CYCLE: error(
    'The value {value} of {dimension} stands below itself.',
    'Put it below another value, or below none.',
  ),
  CORE_SETUP_IN_USE: error('{what} is in use: {uses}.', 'Remove it there first, or keep it.'),
  CORE_SETUP_CHANGED_MEANWHILE: error(
    '{what} was changed by {person} {at}, after it was read here.',
    'Read the table again; your change of this row is kept until you do.',
  ),
  CORE_ENTITY_CURRENCY_CHANGED: error(
    '{entity} keeps its books in {before}; the file says {now}.',
    'An entity with postings keeps its currency; deliver a new entity for the new currency.',
  ),
  CORE_OWNERSHIP_RANGE: error('{text} is not a percentage between 0 and 100.', 'Write 80 for 80 %.'),
  CORE_OWNERSHIP_SELF: error('{entity} cannot own itself.', 'Correct the owner or the owned.'),
  CORE_OWNERSHIP_CIRCULAR: error('Ownership goes round in a circle: {path}.', 'Correct one of the shares.'),
  CORE_OWNERSHIP_OVER_100: error(
    '{entity} is owned {percent} % from {from}.',
    'Shares in an entity add up to 100 % at most.',
  ),
  CORE_OWNERSHIP_OVERLAP: error(
    'Two shares of {pair} hold at once from {from} to {to}.',
    'End one before the other begins.',
  ),
  CORE_GROUP_CODE_TAKEN: error(
    '{code} is an entity; a group needs a code of its own.',
    'A group is its own record, never its head: give it another code.',
  ),
  CORE_GROUP_CIRCULAR: error('The group {code} is part of itself.', 'Correct which group is part of which.'),
  CORE_HOLDING_UNKNOWN: error(
    'No share says that {investor} holds {investee}.',
    'Add the share to ownership.csv, or correct the codes.',
  ),
  CORE_DISPOSAL_OVER: error(
    '{investor} held {held} % of {investee} before {date} and cannot sell {sold} %.',
    'Correct the percent sold, or the share before.',
  ),
  CORE_DISPOSAL_UNLIKE_OWNERSHIP: error(
    '{investor} held {held} % of {investee} and sells {sold} % on {date}, but from then on {left} % are recorded.',
    'Record the share that is left from the day of the disposal on.',
  ),
  CORE_DEAL_WITH_ITSELF: error('{entity} cannot deal with itself.', 'Name the other entity.'),
  CORE_MAP_OVERLAP: error(
    'Of {entity}, {from} and {other} have accounts in common.',
    'Let each account go to one account of the group.',
  ),
  CORE_CALENDAR_MAP_SAME: error(
    '{entity} has the calendar of its group, {calendar}, whose periods count where they are.',
    'Give the entity a calendar of its own, with the periods that its books have.',
  ),
  CORE_CALENDAR_MAP_FAR: error(
    '{from} of {entity} ends on {end}, and {to} of the group on {other}.',
    'Periods of other calendars may end three months apart at most: adjust later ones by journals.',
  ),
  CORE_MAP_PERIOD_CLOSED: error(
    'Account {code} of {entity} has lines in {period}, which is closed.',
    'Let the change begin on a later day, or open the month.',
  ),
  CORE_MAP_STILL_NEEDED: error(
    '{entity} has lines on {code}, which would then be no account of the group.',
    'Map it to another account, or give an account of the chart the role “unmapped”.',
  ),
  CORE_CODES_UNREADABLE: error(
    '“{text}” is no list of codes.',
    'Write codes and ranges divided by commas, such as 4000..4199, 4300.',
  ),
  CORE_CODES_UNKNOWN: error('“{text}” names no row of {file}.', 'Add the codes there, or correct the list.'),
  CORE_LINK_PATTERN: error(
    '“{pattern}” is no address that a document can be opened at.',
    'Write an address that begins with https:// and names the document in braces; these can stand there: {places}.',
  ),
  CORE_ATTACHMENT_PATH: error(
    'An attachment lies in the folder “attachments”, not at {file}.',
    'Put the file there, and name it attachments/….',
  ),
  CORE_ATTACHMENT_MISSING: error('The attachment {file} is not in the package.', 'Put it beside the tables.'),
  CORE_ATTACHMENT_CHANGED: error(
    'The attachment {file} is not the one that its digest is of.',
    'Deliver the file again with the SHA-256 of its bytes.',
  ),
  CORE_ATTACHMENT_LARGE: error('The attachment {file} is larger than {limit} MB.', 'Attach a smaller file.'),
  CORE_RATE_JUMP: notice(
    '{rate} differs from {before} of the period before by more than {limit} %.',
    'Look whether it is quoted the other way round.',
  ),
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
  CORE_BREAKDOWN_FIELD: notice(
    'There is no field “{field}” to break figures down by.',
    'Choose another one, or leave it out.',
  ),
  CORE_BREAKDOWN_VERSIONS: notice(
    'The filter on versions leaves {versions}, and a figure is of one.',
    'Name one version, or put versions down or across the page.',
  ),
  CORE_BREAKDOWN_CUT: notice(
    'More than {cells} cells or {columns} columns would stand here: what there is no room for stands together as others, or stays closed.',
    'Filter values, show the largest, or close a level.',
  ),
  CORE_ALLOCATION_GONE: notice(
    'There is no allocation “{allocation}”: costs stand as they were posted.',
    'Choose another one beside the filter, or bring it back.',
  ),
  CORE_ALLOCATION_NO_KEY: notice(
    'Step “{step}” of “{allocation}” has no key in {months}: its costs stay where they are.',
    'Post what the key counts, or give the step another key.',
  ),
  CORE_ALLOCATION_DIMENSION: error(
    '“{allocation}” spreads costs over {dimension}, which is no dimension.',
    'Choose one of the dimensions of the workspace.',
  ),
  CORE_ALLOCATION_VALUE: error(
    'Step “{step}” of “{allocation}” names {value}, which {dimension} does not have.',
    'Choose one of its values, or add it to the dimension.',
  ),
  CORE_ALLOCATION_NO_CLEARING: error(
    '“{allocation}” does not say by which accounts entities owe each other.',
    'Choose a receivable of who gives costs, and a payable of who takes them.',
  ),
  CORE_ALLOCATION_CLEARING: error(
    '“{allocation}” would have entities owe each other by account {account}, which is none of assets or liabilities.',
    'Choose a receivable of who gives costs, and a payable of who takes them.',
  ),
  CORE_ALLOCATION_UNLIKE: error(
    '“{allocation}” spreads costs over {entity} and {other}, whose books differ in currency or calendar.',
    'Spread over entities of one currency and calendar; give each currency an allocation of its own.',
  ),
  CORE_ALLOCATION_SELF: error(
    'Step “{step}” of “{allocation}” would spread the costs of {value} to itself.',
    'Take it out of those who give or of those who take over.',
  ),
  CORE_ALLOCATION_CIRCLE: error(
    'Step “{step}” of “{allocation}” gives costs back to {value}, whose own were spread before: {circle}.',
    'Take {value} out of those who take over, or put this step before that one.',
  ),
  CORE_ALLOCATION_POOL: error(
    'Step “{step}” of “{allocation}” gives costs to {value}, which is spread itself; the direct method leaves that out.',
    'Take {value} out of those who take over, or spread step by step.',
  ),
  CORE_ALLOCATION_IDS: error('Two steps of “{allocation}” have the same id.', 'Give each step an id of its own.'),
  CORE_COLUMN_NO_DAYS: notice(
    'Column “{column}” tells {of} a day, which has no days of its own.',
    'Choose a column of figures.',
  ),
  CORE_COMPLETION_DIMENSION: error(
    '“{completion}” completes {dimension}, which is no dimension.',
    'Choose one of the dimensions of the workspace.',
  ),
  CORE_COMPLETION_VALUE: error(
    'Rule {rule} of “{completion}” gives {value}, which {dimension} does not have.',
    'Choose one of its values, or add it to the dimension.',
  ),
  CORE_COMPLETION_ALL: error(
    'Rule {rule} of “{completion}” names no accounts, no partner and no text: it would take all postings.',
    'Say which postings are meant.',
  ),
  CORE_LAYOUT_CYCLE: error(
    'These rows depend on each other in a circle: {rows}.',
    'Take one of them out of the formula of the other.',
  ),
  CORE_FORMULA_INVALID: error(
    'The formula of “{row}” cannot be read: {problem}.',
    'Correct it; docs/formulas.md has the grammar.',
  ),
  CORE_FORMULA_UNITS: notice(
    'The formula of “{row}” adds or multiplies unlike things, such as money and pieces.',
    'Give the row a unit if that is intended.',
  ),
  CORE_ROW_UNITS: notice(
    '“{row}” holds unlike things, such as money and pieces; what is not like the rest is not added up.',
    'Give what is counted a row of its own, beside the total.',
  ),
  CORE_COLUMN_NO_TOTAL: notice(
    '“{column}” has no total: {by} side by side are not added up.',
    'Take the total off the series.',
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
