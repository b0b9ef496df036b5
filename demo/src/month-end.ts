import { createHash } from 'node:crypto';
import {
  naturalOrientation,
  type ClosingFile,
  type EvidenceSource,
  type Explanation,
  type KeptEvidence,
} from '@margin-lens/core';
import type { Book } from './book';
import { CHART } from './chart';
import { periodKey, type Month } from './scenario';

/** Who writes the evidence of the demo, and when: the fifth working day of the month after, or thereabouts. */
const PERSON = 'Controller';
const writtenAt = ({ year, month }: Month) =>
  `${new Date(Date.UTC(year, month, 7)).toISOString().slice(0, 10)}T15:40:00.000Z`;

/** A bank statement as a file that hangs on the balance it shows. */
export const STATEMENT_TEXT = 'Statement of account, August 2026. Invented, for the demo.\n';
export const STATEMENT_SHA = createHash('sha256').update(STATEMENT_TEXT).digest('hex');
const STATEMENT = {
  ...{ name: 'Statement of account, August 2026.txt', sha256: STATEMENT_SHA },
  bytes: Buffer.byteLength(STATEMENT_TEXT),
};

/** Where the balances of a run of accounts are shown from outside, who looks after them and how that is called. */
const RULES: readonly { from: number; to: number; source: EvidenceSource; owner: string; note: string }[] = [
  { from: 1000, to: 1299, source: 'sub_ledger', owner: 'E. Okonkwo', note: 'Register of fixed assets' },
  { from: 1300, to: 1339, source: 'calculation', owner: 'E. Okonkwo', note: 'Schedule of shares' },
  { from: 1400, to: 1469, source: 'listing', owner: 'M. Ferreira', note: 'Stock list at standard cost' },
  { from: 1500, to: 1509, source: 'sub_ledger', owner: 'S. Whitlock', note: 'Open items of customers' },
  { from: 1600, to: 1639, source: 'bank', owner: 'S. Whitlock', note: '' },
  { from: 2000, to: 2099, source: 'not_needed', owner: '', note: 'Moves by resolution alone' },
  { from: 2200, to: 2229, source: 'confirmation', owner: 'E. Okonkwo', note: 'Letter of the bank' },
  { from: 2400, to: 2409, source: 'sub_ledger', owner: 'S. Whitlock', note: 'Open items of suppliers' },
  { from: 2420, to: 2429, source: 'listing', owner: 'S. Whitlock', note: 'Orders that are paid ahead' },
  { from: 2510, to: 2539, source: 'calculation', owner: 'J. Lindqvist', note: 'Payroll schedule' },
  { from: 2550, to: 2559, source: 'calculation', owner: 'M. Okafor', note: 'Rebates by agreement' },
  { from: 2600, to: 2619, source: 'calculation', owner: 'J. Lindqvist', note: 'Payroll schedule' },
  { from: 2660, to: 2679, source: 'calculation', owner: 'M. Okafor', note: 'Claims of the last two years' },
];

/** What is off, in minor units, from the second last month on or in the last alone. */
const OFF: Readonly<
  Record<string, { by: number; note: string; isNew?: boolean; isAccepted?: boolean; hasMoved?: boolean }>
> = {
  '1420': { by: 418_000, note: 'Count of the Elst store; being looked for' },
  '1610': { by: 125_000, note: 'Transfer of 31 August, credited on 1 September', isNew: true, isAccepted: true },
  '2400': { by: 96_000, note: 'Open items of suppliers', isNew: true, hasMoved: true },
};

/** Balances of an entity held against evidence, at the end of a month; some are open, and some differ. */
export function evidenceOf(book: Book, month: Month, isLast: boolean): KeptEvidence[] {
  const scope = book.entity.code;
  return CHART.flatMap(({ number, nature }): KeptEvidence[] => {
    const rule = RULES.find(({ from, to }) => Number(number) >= from && Number(number) <= to);
    const debit = Math.round(book.balance(number));
    if (!rule || debit === 0 || nature === 'statistic') return [];
    const balance = naturalOrientation(nature) === 'credit' ? -debit : debit;
    const off = scope === 'LMG' ? OFF[number] : undefined;
    const isOff = off !== undefined && (isLast || !off.isNew);
    const shown = isOff ? balance - off.by : balance;
    const { source, owner, note } = rule;
    return [
      {
        ...{
          scope,
          account: number,
          period: periodKey(month.fiscalYear, month.period),
          source,
          owner,
          person: PERSON,
          at: writtenAt(month),
        },
        amount: source === 'not_needed' ? null : shown,
        balance: isOff && off.hasMoved ? shown : balance,
        dated: source === 'bank' ? lastDay(month) : '',
        note: isOff ? off.note : note,
        accepted: isOff && off.isAccepted === true,
        files: number === '1600' && scope === 'LMG' && isLast ? [STATEMENT] : [],
      },
    ];
  });
}

const lastDay = ({ key, days }: Month) => `${key}-${days}`;

const task = (id: string, name: string, day: number, owner: string, scope = '', note = '') => ({
  ...{ id, name, day, owner, scope, note },
});

/** The month-end checklist, and what of it was done for the last month. */
export function monthEnd(month: Month, group: string): ClosingFile {
  const done = (scope: string, ...tasks: string[]) =>
    tasks.map((id) => ({
      scope,
      period: periodKey(month.fiscalYear, month.period),
      task: id,
      person: PERSON,
      at: writtenAt(month),
    }));
  return {
    tasks: [
      task('stock', 'Stock counted and valued', 0, 'M. Ferreira'),
      task('sub_ledgers', 'Sub-ledgers closed', 1, 'S. Whitlock'),
      task('accruals', 'Accruals and prepayments posted', 2, 'S. Whitlock'),
      task('wear', 'Depreciation posted', 2, 'E. Okonkwo'),
      task('between', 'Balances between entities agreed', 3, '', group),
      task('evidence', 'Balance sheet held against evidence', 4, ''),
      task('margins', 'Margins in stock said', 4, 'M. Ferreira', group, 'Tiles and tableware held of one another'),
      task('variances', 'Variances explained', 5, ''),
      task('board', 'Board pack issued', 7, 'Controller', group, 'To the board by noon'),
    ],
    owners: { evidence: 'E. Okonkwo', exceptions: 'Controller', pairs: 'S. Whitlock', delivered: 'S. Whitlock' },
    done: [...done('LMG', 'stock', 'sub_ledgers', 'accruals', 'wear'), ...done('LMT', 'stock', 'sub_ledgers', 'wear')],
  };
}

/** What was remarked on variances of an entity, with what they are: a matter of timing that is to come, one that is late, and more. */
export function remarksOf(month: Month, before: Month): object[] {
  const [now, then] = [month, before].map((each) => periodKey(each.fiscalYear, each.period)) as [string, string];
  const next = periodKey(month.fiscalYear, month.period + 1);
  const remark = (row: string, period: string, text: string, explains: Explanation) => ({
    ...{ id: `remark_demo_${row}_${period.toLowerCase()}`, scope: 'LMT', period, statement: 'income_statement' },
    ...{ row, column: '', columns: '', text, quotes: [], state: 'open', carries: '', explains },
    ...{ author: PERSON, writtenAt: writtenAt(period === now ? month : before) },
  });
  const of = (kind: Explanation['kind'], amount: number, more: Partial<Explanation> = {}): Explanation => ({
    ...{ kind, amount, in: now, returns: '', ...more },
  });
  return [
    remark('labour', now, 'Four more at the presses than planned; they stay.', of('permanent', -86_876_404)),
    remark('energy', now, 'Gas for September was bought in August.', of('timing', -34_000_000, { returns: next })),
    remark('other_income', now, 'Moulds sold to the kiln hall in August.', of('one_off', 20_600_000)),
    remark('selling', now, 'Trade fair in Poznań, held every fourth year.', of('one_off', -31_500_000)),
    remark(
      'materials',
      then,
      'Clay was bought ahead of the price list of August.',
      of('timing', -22_000_000, { in: then, returns: now }),
    ),
  ];
}
