import { testCalendar } from '../../test/properties/random-books';
import { delimiterOf } from './delimiter';
import { readPeriod } from './read-period';

const calendar = testCalendar(); // fiscal years from April: 2025 to 2027

describe('readPeriod', () => {
  it.each([
    ['FY2027-P01', 'FY2027-P01'],
    ['2026-04', 'FY2027-P01'],
    ['202604', 'FY2027-P01'],
    ['04/2026', 'FY2027-P01'],
    ['4.2026', 'FY2027-P01'],
    ['Apr 2026', 'FY2027-P01'],
    ['April-26', 'FY2027-P01'],
    ['30.04.2026', 'FY2027-P01'],
    [' 2027-03 ', 'FY2027-P12'],
    ['Adj 2026', 'FY2026-P13'],
  ])('reads %s as %s', (text, key) => {
    expect(readPeriod(text, calendar, 'dmy')).toBe(key);
  });

  it.each(['', 'FY2027-P14', 'FY2031-P01', '2031-04', '13/2026', 'Foo 2026', 'soon'])('does not read %s', (text) => {
    expect(readPeriod(text, calendar, 'dmy')).toBeUndefined();
  });
});

describe('delimiterOf', () => {
  it.each([
    ['a,b,c\n1,2,3\n', ','],
    ['Konto;Betrag\n1000;1.234,50\n2000;2,5\n', ';'],
    ['a\tb\n1\t2\n', '\t'],
    ['a|b|c\n1|2|3\n', '|'],
    ['name;text\n1;"a, b, c, d"\n2;"e, f, g, h"\n', ';'],
    ['one column\nalone\n', ','],
  ])('finds it in %j', (text, delimiter) => {
    expect(delimiterOf(text)).toBe(delimiter);
  });

  it('is not misled by a title above the table', () => {
    expect(delimiterOf('Trial balance, August\n\na;b;c\n1;2;3\n4;5;6\n')).toBe(';');
  });
});
