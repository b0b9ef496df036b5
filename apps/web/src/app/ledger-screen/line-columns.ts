import type { LedgerLineView, LineSort } from '@margin-lens/contract';
import { copyText, dayShort } from '@margin-lens/core/shown';
import { currencyUnit } from '../shared/currency-unit';
import { amountText, carriedWords } from './ledger-text';

/** A line with the balance behind it, where lines of one account stand in date order. */
export type ListedLine = LedgerLineView & { balance: number | undefined };

/** A column of a list of journal lines. */
export interface LineColumn {
  id: string;
  label: string;
  /** Grid track. */
  width: string;
  kind: 'text' | 'second' | 'number';
  sort?: LineSort;
  text: (line: ListedLine) => string;
  /** What a pointer at rest is told, where a cell may be too narrow. */
  title?: (line: ListedLine) => string;
  /** As it is copied: days as ISO 8601 dates, amounts as spreadsheets read them. */
  copied: (line: ListedLine) => string;
}

/** The columns of a list; the account stands there unless all lines are of one, the balance where they are. */
export function lineColumns(currency: string, hasAccount: boolean, hasBalance: boolean): LineColumn[] {
  const words = (column: Omit<LineColumn, 'copied' | 'title' | 'kind'>, kind: LineColumn['kind']): LineColumn => ({
    ...column,
    ...{ kind, title: column.text, copied: column.text },
  });
  const amount = (id: string, label: string, of: (line: ListedLine) => number | undefined): LineColumn => ({
    ...{ id, label, kind: 'number', width: '104px' },
    text: (line) => (of(line) === undefined ? '' : amountText(of(line)!, currency)),
    copied: (line) => copyText({ amount: of(line) ?? null, unit: currencyUnit(currency) }, 1),
  });
  const debit = amount('debit', 'Debit', (line) => line.debit || undefined);
  const credit = amount('credit', 'Credit', (line) => line.credit || undefined);
  const balance = amount('balance', 'Balance', (line) => line.balance);
  const quantity = (line: ListedLine) => (line.quantity === 0 ? '' : String(line.quantity / 10_000));
  const account = ({ account: number, accountName }: ListedLine) => `${number} ${accountName}`;
  return [
    {
      ...{ id: 'date', label: 'Date', width: '86px', kind: 'text', sort: 'date' },
      text: ({ date }) => dayShort(date),
      copied: ({ date }) => date,
    },
    words({ id: 'journal', label: 'Journal', width: '64px', sort: 'journal', text: ({ journal }) => journal }, 'text'),
    ...(hasAccount
      ? [
          words(
            { id: 'account', label: 'Account', width: 'minmax(90px, 1.7fr)', sort: 'account', text: account },
            'text',
          ),
        ]
      : []),
    words(
      {
        ...{ id: 'description', label: 'Text', width: hasAccount ? 'minmax(90px, 2.4fr)' : 'minmax(90px, 3fr)' },
        text: ({ description }) => description,
      },
      'text',
    ),
    words(
      { id: 'document', label: 'Document', width: 'minmax(56px, 1.2fr)', text: ({ document }) => document },
      'second',
    ),
    words({ id: 'carries', label: 'Dimension values', width: 'minmax(60px, 2fr)', text: carriedWords }, 'second'),
    {
      ...debit,
      sort: 'amount',
      text: (line) => debit.text(line) || quantity(line),
      copied: (line) => debit.copied(line) || quantity(line),
    },
    credit,
    ...(hasBalance ? [balance] : []),
  ];
}
