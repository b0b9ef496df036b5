export type ErrorKind =
  | 'invalid'
  | 'not_found'
  | 'conflict'
  | 'forbidden'
  | 'unknown_person'
  | 'misdirected'
  | 'too_large'
  | 'unavailable'
  | 'bug';

interface ErrorEntry {
  kind: ErrorKind;
  template: string;
  hint: string;
}

const entry = (kind: ErrorKind, template: string, hint: string): ErrorEntry => ({ kind, template, hint });

/** The catalogue of errors of the server. A code once released is never used again for something else. */
export const ERROR_CODES = {
  SRV_REQUEST_INVALID: entry('invalid', 'The request is not as it should be: {problem}.', 'Correct what is named.'),
  SRV_ROUTE_UNKNOWN: entry('not_found', 'There is nothing at {url}.', 'The interface is described at /api/docs.'),
  SRV_HOST_FOREIGN: entry(
    'misdirected',
    'This server is not called “{host}”.',
    'Use the address that the application printed, or name the host in MARGIN_LENS_HOSTS.',
  ),
  SRV_TOKEN_MISSING: entry(
    'unknown_person',
    'This server listens beyond its machine, and the token that it was started with is missing or wrong.',
    'Open the address with ?token=… once, or send it as a bearer token.',
  ),
  SRV_ORIGIN_FOREIGN: entry(
    'forbidden',
    'The request comes from another site.',
    'Use the address that the application printed.',
  ),
  SRV_SCOPE_UNKNOWN: entry(
    'not_found',
    'There is no entity or group “{scope}”.',
    'Choose one of those in the workspace.',
  ),
  SRV_SCOPE_IS_GROUP: entry(
    'invalid',
    '“{scope}” is a group, and what is asked for is kept by its entities.',
    'Choose one of the entities.',
  ),
  SRV_SCOPE_NOT_PERMITTED: entry(
    'forbidden',
    '“{scope}” is not among the entities that you may see.',
    'Ask the owner of the workspace.',
  ),
  SRV_VALUES_LIMITED: entry(
    'forbidden',
    'This is not told apart by {dimensions}, of which you may not see all values.',
    'Look at a statement or at journal lines, which show what you may see, or ask the owner of the workspace.',
  ),
  SRV_ALLOCATION_BROKEN: entry('invalid', '“{name}” does not hold: {problem}', 'Change what is named, then save it.'),
  SRV_COMPLETION_BROKEN: entry(
    'invalid',
    '“{name}” cannot be taken: {problem}',
    'Change the rule that is named; nothing was saved.',
  ),
  SRV_ALLOCATION_HIDDEN: entry(
    'forbidden',
    '“{name}” spreads costs over entities of which you may not see all.',
    'Ask the owner of the workspace.',
  ),
  SRV_ALLOCATION_ENTITY: entry(
    'invalid',
    'Costs are spread within each entity; {scope} has several.',
    'Choose one entity as the scope to see what is spread in it.',
  ),
  SRV_PERIOD_UNKNOWN: entry(
    'invalid',
    '“{asAt}” is not a month or period of the calendar {calendar}.',
    'Write 2026-08, or FY2027-P05; an adjustment period by its number, FY2027-P13.',
  ),
  SRV_ACCOUNT_UNKNOWN: entry(
    'not_found',
    'No account is called “{account}”.',
    'Name it by its number, a range such as 6400..6499, its heading, or a word of its name.',
  ),
  SRV_PERIOD_CLOSED: entry(
    'conflict',
    '{period} of {entity} is closed.',
    'Open the period first, with the right to do so.',
  ),
  SRV_STATEMENT_UNKNOWN: entry('not_found', 'There is no statement “{id}”.', 'Choose one of: {known}.'),
  SRV_PACK_PAGE_UNKNOWN: entry(
    'not_found',
    'The pack “{pack}” has no page “{id}” that could be shared.',
    'Choose another page of it, or take this one out.',
  ),
  SRV_PACK_UNKNOWN: entry('not_found', 'There is no pack “{id}”.', 'Choose one of: {known}.'),
  SRV_PACK_RUN_UNDER_WAY: entry(
    'conflict',
    'Packs for many are being made for you already.',
    'Wait until they are there, or cancel them.',
  ),
  SRV_PACK_RUN_UNKNOWN: entry('not_found', 'These packs are not there any more, or not yet.', 'Make them once more.'),
  SRV_COLUMNS_UNKNOWN: entry('not_found', 'There is no column layout “{id}”.', 'Choose one of: {known}.'),
  SRV_ROWS_UNKNOWN: entry('not_found', 'The row layout “{id}” of this statement is missing.', 'Bring it in again.'),
  SRV_VERSION_UNKNOWN: entry('not_found', 'There is no version “{code}”.', 'Choose one of: {known}.'),
  SRV_VALUE_UNKNOWN: entry('not_found', 'There is no {what} “{text}”.', 'Choose one of: {known}.'),
  SRV_VERSION_NOT_DRAFT: entry(
    'conflict',
    '“{name}” is {state}; its figures stay as they are.',
    'Send it back to draft with a reason, or make a new version of it.',
  ),
  SRV_VERSION_NOT_YOURS: entry('forbidden', '{person} may not change {what} of “{name}”.', 'Ask its owner, {owner}.'),
  SRV_REVISION_UNKNOWN: entry('not_found', 'There is no revision {revision}.', 'Choose one that the history names.'),
  SRV_PERSON_UNKNOWN: entry(
    'invalid',
    'Nobody in this workspace has the id “{id}”.',
    'Choose one of the people that are offered.',
  ),
  SRV_VERSION_MOVE: entry('conflict', '“{name}” cannot go from {from} to {to}.', '{remedy}'),
  SRV_VERSION_IN_USE: entry('conflict', '“{name}” stays: {uses}.', 'Take away first what is named.'),
  SRV_VERSION_RANGE: entry('invalid', '“{name}” cannot be made: {problem}.', 'Correct what is named.'),
  SRV_REMARK_UNKNOWN: entry('not_found', 'This remark is no longer there.', 'Someone took it out; write a new one.'),
  SRV_RESULT_MISSING: entry(
    'conflict',
    '“{name}” says of no row that it is the result.',
    'Open its rows in Shape and choose one as the result.',
  ),
  SRV_EVIDENCE_CHANGED: entry(
    'conflict',
    '{person} has written the evidence of account {account} meanwhile.',
    'Read it again; what you typed stays.',
  ),
  SRV_FILE_UNKNOWN: entry('not_found', 'The file “{name}” is not there.', 'Attach it once more.'),
  SRV_FILE_LARGE: entry(
    'too_large',
    '“{name}” is larger than {limit} MB.',
    'Attach a smaller one, or the pages that show the figure.',
  ),
  SRV_CLOSING_CHANGED: entry(
    'conflict',
    '{person} has changed the checklist meanwhile.',
    'Read it again; what you typed stays.',
  ),
  SRV_CLOSING_TASK_UNKNOWN: entry(
    'not_found',
    'This task is no longer on the checklist.',
    'Someone took it out; look at the checklist once more.',
  ),
  SRV_FIGURE_PLACE: entry('invalid', 'Nothing is written: {problem}.', 'Remove what is named, and try again.'),
  SRV_NUMBERS_TWO_WAYS: entry(
    'invalid',
    'The numbers of this file can be read in two ways: “{text}” may have thousands or decimals.',
    'Say which sign stands before the decimals.',
  ),
  SRV_DOCUMENT_UNKNOWN: entry(
    'not_found',
    'There is no layout or statement “{id}”.',
    'It may have been renamed; look for it under Statements.',
  ),
  SRV_DOCUMENT_BROKEN: entry(
    'conflict',
    '“{id}” is not as layouts and statements are, and is set aside: {problem}.',
    'Bring back an earlier revision of it, or bring it in again from a package.',
  ),
  SRV_DRAFT_CHANGED: entry(
    'conflict',
    'This draft was changed in another window of yours.',
    'Take over that state, or put yours over it.',
  ),
  SRV_DOCUMENT_CHANGED: entry(
    'conflict',
    'Someone else has just kept another state of “{name}”.',
    'Keep again: you will see what they changed.',
  ),
  SRV_STEP_UNKNOWN: entry(
    'not_found',
    'This step is no longer kept.',
    'Open the revisions: every state that was kept can be brought back.',
  ),
  SRV_LAYOUT_BROKEN: entry(
    'invalid',
    '“{name}” cannot be kept: {problem}',
    'Mend the row that is named; the draft stays.',
  ),
  SRV_TRACE_UNKNOWN: entry(
    'not_found',
    'The statement has no place “{address}”.',
    'Select the cell again; the columns may have changed.',
  ),
  SRV_JOURNAL_UNKNOWN: entry(
    'not_found',
    'There is no journal with id {id}.',
    'It may have been deleted; reload the statement.',
  ),
  SRV_ACCOUNT_NOT_EQUITY: entry(
    'invalid',
    '{account} is no account of equity in the chart.',
    'Choose one of the accounts offered.',
  ),
  SRV_WORKSPACE_EMPTY: entry('conflict', 'There are no books yet.', 'Bring in a ledger package first.'),
  SRV_SUM_TOO_LARGE: entry(
    'invalid',
    'All postings of {entity} together would be more than can be added up exactly.',
    'Look for an amount with too many digits.',
  ),
  SRV_IMPORT_UNKNOWN: entry('not_found', 'There is no such delivery under way.', 'Start it again.'),
  SRV_SETTINGS_CHANGED: entry(
    'conflict',
    '{person} has changed the settings since you opened them ({at}).',
    'Discard to see them, and make your change again.',
  ),
  SRV_WORKSPACE_NOT_EMPTY: entry(
    'conflict',
    'The workspace has entities already, so no file can start it.',
    'Bring the file in again; it is then read into the books that there are.',
  ),
  SRV_RIGHT_MISSING: entry('forbidden', '{person} may not {what}.', 'Ask someone who may.'),
  SRV_RUN_ELSEWHERE: entry('not_found', 'Delivery {id} did not touch this month.', 'Choose one of those that did.'),
  SRV_IMPORT_BUSY: entry(
    'conflict',
    'Another delivery is being read, or waits for an answer.',
    'Answer it, wait until it has ended, or cancel it.',
  ),
  SRV_IMPORT_TOO_LONG: entry(
    'invalid',
    'The file could not be read within {minutes} minutes.',
    'Nothing was changed. Export it again as CSV, or in parts.',
  ),
  SRV_IMPORT_NO_FILES: entry('invalid', 'No file has arrived.', 'Drop a ledger package, or a CSV file or workbook.'),
  SRV_IMPORT_FILE_NAME: entry(
    'invalid',
    '“{name}” is not a name that a file of a package can have.',
    'Rename the file.',
  ),
  SRV_IMPORT_NOT_ASKED: entry(
    'conflict',
    'This delivery has asked nothing.',
    'Reload the page to see where it stands.',
  ),
  SRV_UNDO_NOT_LATEST: entry(
    'conflict',
    'Only the latest delivery that still holds can be undone.',
    'Undo the later ones first, in order.',
  ),
  SRV_UNDO_IN_USE: entry(
    'conflict',
    'The adjustment {journal} uses accounts, entities or periods that this delivery brought.',
    'Take the adjustment out first.',
  ),
  SRV_EXPORT_NOT_EMPTY: entry('conflict', 'The folder {folder} is not empty.', 'Name a new folder for the package.'),
  SRV_BACKUP_EXISTS: entry('conflict', 'There is a file {file} already.', 'Name another file; nothing is overwritten.'),
  SRV_BACKUP_UNREADABLE: entry('invalid', '{file} is not a workspace file: {problem}.', 'Name a file made by backup.'),
  SRV_PACKAGE_UNREADABLE: entry(
    'invalid',
    '{name} is neither a folder nor a zip file that can be read: {problem}.',
    'Deliver a ledger package as a folder or as a zip file.',
  ),
  SRV_UPLOAD_TOO_LARGE: entry(
    'too_large',
    'The delivery is larger than {limit}.',
    'Use the command line for it: npm run lens -- import.',
  ),
  SRV_LINES_FOR_WORKBOOK: entry(
    'invalid',
    'The list has {lines} lines; a worksheet holds {most}.',
    'Narrow the list by account, period or value, or take it as CSV.',
  ),
  SRV_DISK_FULL: entry('unavailable', 'The disk is full.', 'Nothing was changed. Make room, and try again.'),
  SRV_TOO_MANY_AT_ONCE: entry(
    'unavailable',
    'The server answers as many questions as it can at once, and has not come to this one.',
    'Nothing was changed. Try again in a moment.',
  ),
  SRV_DATABASE_BUSY: entry(
    'unavailable',
    'The books are being written by someone else at this moment.',
    'Nothing was changed. Try again when the delivery or the other program has ended.',
  ),
  SRV_DATABASE_READ_ONLY: entry(
    'unavailable',
    'Nothing can be written: {file} may only be read.',
    'Nothing was changed. Give the account that the server runs under the right to write the file and its folder.',
  ),
  SRV_DATABASE_NOT_OPENED: entry(
    'unavailable',
    'The books cannot be used: {file} cannot be opened.',
    'See that the file and its folder are there, and that the account that the server runs under may read and write them.',
  ),
  SRV_DATABASE_OTHER: entry(
    'unavailable',
    'The books cannot be used: {file} is not a workspace file.',
    'Name the right file; a backup is brought back with npm run lens -- restore.',
  ),
  SRV_DATABASE_DAMAGED: entry(
    'unavailable',
    'The books cannot be used: {file} is damaged.',
    'Keep a copy of it, and bring back a backup with npm run lens -- restore.',
  ),
  SRV_DATABASE_DISK: entry(
    'unavailable',
    'The disk does not answer as it should.',
    'Look into the log of the machine; keep a copy of the workspace file.',
  ),
  SRV_UPLOAD_BROKEN: entry('invalid', 'The upload has not arrived as it was sent: {problem}.', 'Send the file again.'),
  SRV_REFERENCE_RATES: entry(
    'unavailable',
    'The reference rates could not be read: {problem}.',
    'Try again later, or type or paste the rates.',
  ),
  SRV_INTERNAL: entry(
    'bug',
    'Something went wrong on our side.',
    'Nothing was changed. Try again; if it stays, look into the log of the server.',
  ),
} as const satisfies Record<string, ErrorEntry>;

export type ErrorCode = keyof typeof ERROR_CODES;
