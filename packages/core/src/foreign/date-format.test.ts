import { dateOfSerial, dateOrderOf, monthOfName, readDate } from './date-format';
import type { DateOrder } from '../words/writing-style';

describe('readDate', () => {
  it.each<[string, DateOrder, string]>([
    ['2026-08-31', 'dmy', '2026-08-31'],
    ['20260831', 'mdy', '2026-08-31'],
    ['31.08.2026', 'dmy', '2026-08-31'],
    ['31/8/26', 'dmy', '2026-08-31'],
    ['8/31/26', 'mdy', '2026-08-31'],
    ['03/04/2026', 'dmy', '2026-04-03'],
    ['03/04/2026', 'mdy', '2026-03-04'],
    ['31 Aug 2026', 'mdy', '2026-08-31'],
    ['Aug 31, 2026', 'dmy', '2026-08-31'],
    ['2026-08-31T23:59:59Z', 'dmy', '2026-08-31'],
    ['29.02.2024', 'dmy', '2024-02-29'],
  ])('reads %s as %s', (text, order, expected) => {
    expect(readDate(text, order)).toBe(expected);
  });

  it.each(['', '31.02.2026', '29.02.2026', '2026-13-01', '31 Foo 2026', '1-2/2026', 'yesterday'])(
    'does not read %s',
    (text) => {
      expect(readDate(text, 'dmy')).toBeUndefined();
    },
  );
});

describe('dateOrderOf', () => {
  it.each<[string[], DateOrder]>([
    [['2026-08-31', '2026-09-01'], 'ymd'],
    [['01/02/2026', '13/02/2026'], 'dmy'],
    [['01/02/2026', '02/13/2026'], 'mdy'],
    [['01.02.2026'], 'dmy'],
    [['31 Aug 2026'], 'ymd'],
  ])('is told by %s', (samples, order) => {
    expect(dateOrderOf(samples)).toEqual({ order, isCertain: true });
  });

  it('is open where no number is above twelve', () => {
    expect(dateOrderOf(['01/02/2026', '03/04/2026'])).toEqual({ order: 'dmy', isCertain: false });
  });
});

describe('dateOfSerial', () => {
  // ISO/IEC 29500-1, 18.17.4.1: day 61 of the 1900 system is 1 March 1900; 25569 is the first day of Unix time
  it.each([
    [61, '1900-03-01'],
    [25_569, '1970-01-01'],
    [25_569.75, '1970-01-01'],
    [46_265, '2026-08-31'],
  ])('is for %d the day %s', (serial, day) => {
    expect(dateOfSerial(serial)).toBe(day);
  });
});

describe('monthOfName', () => {
  it('knows names and their first three letters', () => {
    expect(['January', 'sep', 'DEC', 'Foo'].map(monthOfName)).toEqual([1, 9, 12, 0]);
  });
});
