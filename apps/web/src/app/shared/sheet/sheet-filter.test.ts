import { meetsFilter } from './sheet-filter';

it.each([
  ['Trade receivables', 'receiv', true],
  ['Trade receivables', 'RECEIV', true],
  ['Trade receivables', 'receiv*', false],
  ['4010', '40*', true],
  ['1401', '40*', false],
  ['4500', '4000..4999', true],
  ['4999', '4000..49', true],
  ['5000', '4000..49', false],
  ['3999', '4000..', false],
  ['9999', '4000..', true],
  ['1000', '..19', true],
  ['', '..19', false],
])('%s is met by %s: %s', (cell, typed, expected) => {
  expect(meetsFilter(cell, typed)).toBe(expected);
});
