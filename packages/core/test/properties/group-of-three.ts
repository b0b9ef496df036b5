import type { Rate, RateType } from '../../src/index';
import { calendar, entity, stored } from './books-of-postings';

export const [EURO, ZLOTY, YEN] = [
  entity(1, 'EURO', 'EUR', 2),
  entity(2, 'ZLOTY', 'PLN', 2),
  entity(3, 'YEN', 'JPY', 0),
];
export const ENTITIES = [EURO, ZLOTY, YEN];
export const GROUP = {
  code: 'ALL',
  name: 'All',
  currency: EURO.currency,
  calendar: stored,
  topEntity: 'EURO',
  parent: '',
};
/** Zloty is held from the first day, yen from the second fiscal year on, until half of it is over. */
export const HELD = [
  { investor: 'EURO', investee: 'ZLOTY', from: '2024-01-01', percent: '80', method: 'full' },
  { investor: 'ZLOTY', investee: 'YEN', from: '2025-04-01', percent: '100', method: 'full' },
  { investor: 'ZLOTY', investee: 'YEN', from: '2025-10-01', percent: '0', method: 'full' },
];
const quoted = (quote: string, type: RateType, start: number): Rate[] =>
  calendar.periods
    .filter(({ kind }) => kind === 'regular')
    .map(({ key, ordinal }) => ({
      ...{ set: '', base: 'EUR', quote, type, period: key, date: '' },
      rate: (start + (ordinal % 7) / 100).toFixed(4),
    }));
const before = (quote: string, rate: string): Rate => ({
  ...{ set: '', base: 'EUR', quote, type: 'closing', period: '', date: '2024-03-31', rate },
});
/** Average and closing rates of every month, and closing rates before the first. */
export const ALL_RATES = [
  ...quoted('PLN', 'average', 4.1234),
  ...quoted('PLN', 'closing', 4.1379),
  ...quoted('JPY', 'average', 161.27),
  ...quoted('JPY', 'closing', 162.33),
  ...[before('PLN', '4.1111'), before('JPY', '160.05')],
];
