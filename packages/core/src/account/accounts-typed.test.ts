import { accountsTyped } from './accounts-typed';
import { accountOf } from './nature';

const CHART = [
  accountOf('4000', 'income', { name: 'Tableware', heading: 'Net sales' }),
  accountOf('6400', 'expense', { name: 'Kiln gas', heading: 'Cost of sales', subHeading: 'Energy' }),
  accountOf('6410', 'expense', { name: 'Electricity', heading: 'Cost of sales', subHeading: 'Energy' }),
  accountOf('6650', 'expense', { name: 'Freight out', heading: 'Distribution' }),
  accountOf('7270', 'expense', { name: 'Freight of samples', heading: 'Distribution' }),
];

describe('accountsTyped', () => {
  it.each([
    ['6400', ['6400']],
    ['6400,4000', ['4000', '6400']],
    ['6400 4000', ['4000', '6400']],
    ['6400..6499', ['6400', '6410']],
    ['6400–6500, 7270', ['6400', '6410', '7270']],
    ['64*', ['6400', '6410']],
    ['Energy', ['6400', '6410']],
    ['freight', ['6650', '7270']],
    ['kiln gas', ['6400']],
    ['', []],
  ])('%s names %j', (text, numbers) => {
    expect(accountsTyped(text, CHART)).toEqual({ numbers });
  });

  it.each(['9999', '6400, 9999', '8000..8100', 'gold'])('%s names nothing in one part', (text) => {
    expect(accountsTyped(text, CHART)).toEqual({ unknown: text.split(', ').at(-1) });
  });
});
