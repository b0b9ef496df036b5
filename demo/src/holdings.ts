import type { Book, Line } from './book';
import { GROUP, periodKey, type Month } from './scenario';
import type { Cell } from './csv-file';

/** What Larkmoor Ceramics paid for what it holds, in euro. All of it is invented. */
interface Bought {
  entity: string;
  date: string;
  percent: number;
  method: 'full' | 'equity';
  paid: number;
  nciMethod: string;
}

const PARENT = 'LMG';
/** From the first day of the books on. */
const FOUNDED = '2024-04-01';
const AMERICAS = '2026-06-01';

const BOUGHT: readonly Bought[] = [
  { entity: 'LMT', date: FOUNDED, percent: 100, method: 'full', paid: 18_350_000, nciMethod: 'proportionate' },
  { entity: 'LMS', date: FOUNDED, percent: 100, method: 'full', paid: 4_672_900, nciMethod: 'proportionate' },
  { entity: 'LMU', date: FOUNDED, percent: 100, method: 'full', paid: 5_820_000, nciMethod: 'proportionate' },
  { entity: 'LMJ', date: FOUNDED, percent: 80, method: 'full', paid: 2_700_000, nciMethod: 'proportionate' },
  { entity: 'LMA', date: AMERICAS, percent: 100, method: 'full', paid: 7_400_000, nciMethod: 'proportionate' },
  { entity: 'KWE', date: FOUNDED, percent: 30, method: 'equity', paid: 1_180_000, nciMethod: '' },
];

export const ownershipOfLarkmoor = (): Cell[][] =>
  BOUGHT.map(({ entity, date, percent, method }) => [PARENT, entity, date, percent, method]);

/** What was paid, and what the trade mark and the buildings of Larkmoor Americas were worth beyond its books. */
export function acquisitionsOfLarkmoor(): Cell[][] {
  const item = (name: string, account: string, expense: string, amount: number, months: number): Cell[] => [
    ...[PARENT, 'LMA', AMERICAS, '', '', '', '', 'fair_value', name],
    ...[account, expense, amount.toFixed(2), months],
  ];
  return [
    ...BOUGHT.map(({ entity, date, paid, nciMethod }) => [
      ...[PARENT, entity, date, paid.toFixed(2), '', nciMethod, '', '', '', '', '', '', ''],
    ]),
    item('Trade mark', '1020', '6840', 420_000, 120),
    item('Buildings above book value', '1110', '6820', 260_000, 240),
  ];
}

/** Shares that stand in the books of the parent from the start, and the capital that paid for them. */
export function openingShares(book: Book): Line[] {
  if (book.entity.code !== PARENT) return [];
  const cost = (method: Bought['method']) =>
    100 *
    BOUGHT.filter((each) => each.date === FOUNDED && each.method === method).reduce((sum, { paid }) => sum + paid, 0);
  return [
    { account: '1300', amount: cost('full') },
    { account: '1310', amount: cost('equity') },
    { account: '2000', amount: -2_600_000_000 },
  ];
}

/** Larkmoor Americas is bought in June 2026, for the most part with a loan. */
export function postPurchases(book: Book, month: Month): void {
  if (book.entity.code !== PARENT || month.key !== AMERICAS.slice(0, 7)) return;
  const { paid } = BOUGHT.find(({ entity }) => entity === 'LMA')!;
  const loan = { account: '2210', amount: -600_000_000, flow: 'addition' };
  const bank = { account: '1600' };
  book.post(month, { type: 'B', day: 1, text: 'Loan for the shares in Larkmoor Americas' }, [loan], bank);
  const shares = { account: '1300', amount: 100 * paid, partner: 'LMA', flow: 'addition' };
  book.post(month, { type: 'B', day: 1, text: 'Shares in Larkmoor Americas' }, [shares], bank);
}

/** A press that the parent sold to Larkmoor Studio in May 2025 above its book value. */
export function postPress(book: Book, month: Month): void {
  if (month.key !== '2025-05') return;
  const head = { type: 'B', day: 6, text: 'Press sold to Larkmoor Studio', document: 'AS-2025-05' };
  const sold: Line[] = [
    { account: '1130', amount: -18_000_000, partner: 'LMS', flow: 'disposal' },
    { account: '7860', amount: -6_000_000, partner: 'LMS' },
  ];
  const bought: Line[] = [{ account: '1130', amount: 24_000_000, partner: PARENT, flow: 'addition' }];
  const lines = { [PARENT]: sold, LMS: bought }[book.entity.code];
  if (lines) book.post(month, head, lines, { account: '1600' });
}

/** The same as the group sees it: its gain is realised over the life of the press. */
export const assetTransfers = (): Cell[][] => [
  [PARENT, 'LMS', periodKey(2026, 2), '1130', '240000.00', '180000.00', 60, '7860', '6810'],
];

/** An elimination by hand that stands for what no rule tells. */
export const byHand = (): Cell[][] => {
  const head = (line: number, entity: string, partner: string, account: string): Cell[] => [
    ...[GROUP, 'EL-0001', 'normal', line, periodKey(2027, 3), entity, partner, account],
  ];
  const why = ['freight', 'Freight of deliveries between the works, shown with what it was for'];
  return [
    [...head(1, 'LMU', 'LMT', '6650'), '24000.00', '', ...why],
    [...head(2, 'LMU', 'LMT', '7270'), '', '24000.00', ...why],
  ];
};
