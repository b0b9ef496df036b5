import type { EvidenceRow, SaveEvidence } from '@margin-lens/contract';
import {
  digitsOf,
  parseAmount,
  readablePlain,
  type AttachedFile,
  type EvidenceSource,
  typedPlain,
} from '@margin-lens/core';
import { dayShort, exactFigure } from '@margin-lens/core/shown';
import { amountText } from '../ledger-screen/ledger-text';
import { currencyUnit } from '../shared/currency-unit';
import type { RowProblems } from '../shared/sheet/sheet';
import type { Cells, DraftRow, SheetColumn } from '../shared/sheet/sheet-model';
import { plainAmount } from '../shared/typed-amount';
import { readTypedDay } from '../shared/typed-day';

/** Places of what a row of the sheet holds; amounts as they are typed, the balance in minor units. */
export const AT = {
  ...{ account: 0, name: 1, balance: 2, source: 3, amount: 4, dated: 5, note: 6, accepted: 7, owner: 8, files: 9 },
} as const;
export const CELLS = Object.keys(AT).length;

export const SOURCE_WORDS: Readonly<Record<EvidenceSource, string>> = {
  bank: 'Bank statement',
  sub_ledger: 'Sub-ledger',
  listing: 'Listing',
  confirmation: 'Confirmation',
  calculation: 'Calculation',
  not_needed: 'None needed',
};
const sourceOf = (words: string): EvidenceSource | undefined =>
  (Object.keys(SOURCE_WORDS) as EvidenceSource[]).find(
    (source) => SOURCE_WORDS[source].toLowerCase() === words.trim().toLowerCase(),
  );
const YES = 'yes';

/** What is kept of an account for the month, as the sheet shows it. The owner goes on from the month before. */
export function cellsOf({ account, name, balance, evidence, before }: EvidenceRow, currency: string): Cells {
  const cells = Array<string>(CELLS).fill('');
  Object.assign(cells, { [AT.account]: account, [AT.name]: name, [AT.balance]: String(balance), [AT.files]: '[]' });
  if (!evidence) return Object.assign(cells, { [AT.owner]: before?.owner ?? '' });
  return Object.assign(cells, {
    [AT.source]: evidence.source === '' ? '' : SOURCE_WORDS[evidence.source],
    [AT.amount]: evidence.amount === null ? '' : shownAmount(evidence.amount, currency),
    [AT.dated]: evidence.dated === '' ? '' : dayShort(evidence.dated),
    [AT.note]: evidence.note,
    [AT.accepted]: evidence.accepted ? YES : '',
    [AT.owner]: evidence.owner,
    [AT.files]: JSON.stringify(evidence.files),
  });
}

/** A figure as it is shown, which is also how it can be typed. */
const shownAmount = (minor: number, currency: string): string =>
  exactFigure({ amount: minor, unit: currencyUnit(currency) });

export const filesOf = ({ cells }: DraftRow): AttachedFile[] => JSON.parse(cells[AT.files]!) as AttachedFile[];

/** What is typed as the figure, in minor units; undefined where it is none, null where nothing is typed. */
export function typedMinor(text: string, currency: string): number | null | undefined {
  if (text.trim() === '') return null;
  const parsed = parseAmount(plainAmount(text), digitsOf(currency));
  return 'minor' in parsed ? parsed.minor : undefined;
}

/** Balance less what is typed; undefined where that is no figure. */
export function differenceOf({ cells }: DraftRow, currency: string): number | undefined {
  const minor = typedMinor(cells[AT.amount]!, currency);
  return minor === null || minor === undefined ? undefined : Number(cells[AT.balance]) - minor;
}

const isBlank = ({ cells }: DraftRow): boolean =>
  [AT.source, AT.amount, AT.dated, AT.note, AT.accepted].every((at) => cells[at]!.trim() === '') &&
  cells[AT.owner]!.trim() === '' &&
  cells[AT.files] === '[]';

/** How a row stands, in words. */
export function stateOf(row: DraftRow, currency: string): string {
  if (sourceOf(row.cells[AT.source]!) === 'not_needed') return 'none needed';
  const difference = differenceOf(row, currency);
  if (difference === undefined) return 'open';
  if (difference === 0) return 'agrees';
  return row.cells[AT.accepted]!.trim() === '' ? 'differs' : 'explained';
}

export const columnsOf = (currency: string, people: readonly string[]): SheetColumn[] => [
  { name: 'account', label: 'Account', at: AT.account, width: '62px', isKey: true },
  { name: 'name', label: 'Name', at: -1, width: 'minmax(116px, 2fr)', shows: ({ cells }) => cells[AT.name]! },
  {
    ...{ name: 'balance', label: `Balance, ${currency}`, at: -1, width: '112px', isNumber: true },
    hint: 'As the ledger has it, on the natural side of the account',
    shows: ({ cells }) => amountText(Number(cells[AT.balance]), currency),
  },
  {
    ...{ name: 'source', label: 'Held against', at: AT.source, width: '102px', choices: Object.values(SOURCE_WORDS) },
    hint: 'Where the figure from outside comes from',
  },
  { name: 'amount', label: 'Evidence', at: AT.amount, width: '112px', isNumber: true },
  {
    ...{ name: 'difference', label: 'Difference', at: -1, width: '88px', isNumber: true },
    shows: (row) => {
      const difference = differenceOf(row, currency);
      return difference === undefined ? '' : amountText(difference, currency);
    },
  },
  { name: 'state', label: 'State', at: -1, width: '84px', shows: (row) => stateOf(row, currency) },
  {
    ...{ name: 'owner', label: 'Owner', at: AT.owner, width: '84px', suggestions: people },
    hint: 'Who looks after it',
  },
  { name: 'note', label: 'Note', at: AT.note, width: 'minmax(108px, 2fr)' },
  { name: 'dated', label: 'Dated', at: AT.dated, width: '88px', hint: 'Day of the statement or listing' },
  {
    ...{ name: 'accepted', label: 'May stay', at: AT.accepted, width: '72px', choices: [YES] },
    hint: 'The difference may stay, as the note says',
  },
  {
    ...{ name: 'files', label: 'Files', at: -1, width: '48px', isNumber: true },
    shows: (row) => String(filesOf(row).length || ''),
  },
];

/** What cannot be saved, and what has to be looked at; by row and column. */
export function problemsOf(rows: readonly DraftRow[], currency: string): RowProblems {
  const found = new Map<number, Map<string, string>>();
  for (const row of rows) {
    const { cells, id } = row;
    const said = new Map<string, string>();
    const [source, amount, dated] = [cells[AT.source]!.trim(), cells[AT.amount]!.trim(), cells[AT.dated]!.trim()];
    if (source !== '' && !sourceOf(source))
      said.set('source', `Choose one of: ${Object.values(SOURCE_WORDS).join(', ')}`);
    if (typedMinor(amount, currency) === undefined)
      said.set('amount', `No amount; write ${readablePlain('1234.50')} or ${typedPlain('1234.50')}`);
    else if (amount !== '' && source === '') said.set('source', 'Say where the figure comes from');
    else if (amount !== '' && sourceOf(source) === 'not_needed')
      said.set('amount', 'With a figure, say where it comes from');
    if (dated !== '' && readTypedDay(dated) === undefined) said.set('dated', `No day; write ${dayShort('2026-01-31')}`);
    if (cells[AT.accepted]!.trim() !== '' && cells[AT.note]!.trim() === '')
      said.set('note', 'Say why the difference may stay');
    if (said.size > 0) found.set(id, said);
  }
  return found;
}

/** What saving writes; a row with nothing in it any more is taken out. */
export function changesOf(
  changed: readonly DraftRow[],
  place: { scope: string; period: string; currency: string },
): Pick<SaveEvidence, 'put' | 'remove'> {
  const { scope, period, currency } = place;
  const put: SaveEvidence['put'] = [];
  const remove: SaveEvidence['remove'] = [];
  for (const row of changed) {
    const { cells } = row;
    const account = cells[AT.account]!;
    if (isBlank(row)) remove.push({ scope, account, period });
    else
      put.push({
        ...{ scope, account, period, files: filesOf(row) },
        source: sourceOf(cells[AT.source]!) ?? '',
        amount: typedMinor(cells[AT.amount]!, currency) ?? null,
        dated: readTypedDay(cells[AT.dated]!.trim()) ?? '',
        note: cells[AT.note]!.trim(),
        owner: cells[AT.owner]!.trim(),
        accepted: cells[AT.accepted]!.trim() !== '',
      });
  }
  return { put, remove };
}
