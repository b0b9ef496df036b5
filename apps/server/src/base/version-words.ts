/** What the server says of versions and of figures that are written; see `words.ts`. */
import { inWords } from '@margin-lens/core';

/** What of a version someone may not change: “{person} may not change … of {version}”. */
export const partOfVersion = {
  all: 'it',
  settings: 'the settings',
  state: 'the state',
  figures: 'the figures',
  figuresOf: (entity: string) => `the figures of ${entity}`,
  figuresWithout: (dimension: string) => `figures without a ${inWords(dimension)}`,
  figuresWith: (dimension: string, value: string) => `figures of the ${inWords(dimension)} ${value}`,
};

/** What was done to a version, for its history. */
export const versionDone = {
  made: 'made',
  copied: (source: string) => `made as a copy of ${source}`,
  branched: (parent: string) => `branched off ${parent}`,
  revised: (original: string) => `made to revise ${original}`,
  setUp: 'set up',
  moved: (state: string, isBack: boolean, reason: string) =>
    `${isBack ? 'sent back to ' : ''}${state}${reason === '' ? '' : `: ${reason}`}`,
  takenOut: 'taken out',
  broughtBack: 'brought back',
};

/** Why a version does not move to a state; whole sentences. */
export const versionStays = {
  locked: 'A locked version stays. Revise it: that makes a new one of it.',
  order: (states: readonly string[]) => `The order is ${states.join(', ')}.`,
  reasonMissing: 'Give a reason to send it back.',
  noBranch: 'Only a branch is adopted.',
  noDifference: 'It does not differ from its parent.',
};

/** What keeps a version from being deleted. */
export const versionUse = {
  noDraft: (state: string) => `it is ${state}, and only drafts are deleted`,
  opens: (names: readonly string[]) => `${names.join(', ')} opens with its balances`,
  branched: (names: readonly string[]) => `${names.join(', ')} branched off it`,
};

/** What is wrong with the months of a version. */
export const versionRange = {
  periodUnknown: (period: string) => `no calendar has a period ${period}; add the year to it first`,
  endsEarly: 'it ends before it begins',
  cutOverMissing: 'a forecast needs the last month that shows actuals',
  nothingLeft: 'no month is left behind its last actual one',
  openingUnknown: (period: string) => `no calendar has a period ${period}`,
  openingLate: 'the month that it opens with must lie before its first',
  openingCircle: (source: string) => `${source} itself stands on it`,
};

/** What is wrong with a figure that is written, or with a sheet of them. */
export const figureWrong = {
  changeUnknown: 'the change that is to be taken back is not one of this version',
  periodUnknown: (period: string) => `the calendar has no period ${period}`,
  accountUnknown: (account: string) => `there is no account ${account}`,
  dimensionUnknown: (dimension: string) => `there is no dimension ${inWords(dimension)}`,
  valueUnknown: (dimension: string, value: string) => `${inWords(dimension)} has no value ${value}`,
  valuesTooLong: 'the values of a figure are too long',
  outside: (period: string, version: string) => `${period} is outside ${version}`,
  actual: (period: string, version: string) => `${period} shows actuals in ${version}`,
  tooLarge: (account: string, period: string) => `${account} in ${period} is larger than can be kept exactly`,
  twice: (account: string, period: string) => `${account} in ${period} is named twice`,
  noColumns: (file: string) =>
    `${file} has no columns “account” and “values”; send a sheet out first and bring that one back`,
  noSheet: 'the workbook has no sheet',
  sheetTooLarge: (rows: number, columns: number) => `the sheet has more than ${rows} rows or ${columns} columns`,
  tooSlow: 'the file takes too long to read',
  tooMuch: 'the file takes too much memory to read',
  unreadable: 'the file cannot be read',
};
