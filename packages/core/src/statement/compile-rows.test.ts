import { account } from '../../test/properties/random-books';
import { membersOf } from '../account/account-set';
import { CoreError } from '../issue/issue';
import { proposeRows } from '../layout/propose-rows';
import type { Row, RowLayout } from '../layout/row-layout';
import { RowLayoutSchema } from '../layout/row-layout';
import * as v from 'valibot';
import { compileRows } from './compile-rows';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const CHART = [
  account('4000', 'income', 'Sales', { subHeading: 'Tiles' }),
  account('4100', 'income', 'Sales', { subHeading: 'Cups', role: 'rounding' }),
  account('5000', 'expense', 'Goods'),
  account('6510', 'expense', 'Levies'),
];
const layout = (...rows: Row[]): RowLayout => ({
  schema: 1,
  kind: 'row_layout',
  id: 'x',
  name: 'x',
  purpose: 'income',
  rows,
});
const held = (id: string, heading: string): Row => ({
  kind: 'accounts',
  id,
  label: id,
  accounts: { include: [{ by: 'heading', heading }] },
});
const formula = (id: string, ...terms: [string, 1 | -1][]): Row => ({
  kind: 'formula',
  id,
  label: id,
  style: 'result',
  formula: terms.map(([row, sign], at) => `${sign < 0 ? '- ' : at > 0 ? '+ ' : ''}{${row}}`).join(' '),
});

describe('compileRows', () => {
  it('takes orientation and direction from the nature, and of results from their operands', () => {
    const { rows } = compileRows(
      layout(held('sales', 'Sales'), held('goods', 'Goods'), formula('profit', ['sales', 1], ['goods', -1])),
      CHART,
      EUR,
    );
    expect(rows.map(({ id, orientation, direction }) => [id, orientation, direction])).toEqual([
      ['sales', 'credit', 'up'],
      ['goods', 'debit', 'down'],
      ['profit', 'credit', 'up'],
    ]);
  });

  it('marks rows in a circle and names them, while the rest still computes', () => {
    const { rows, issues } = compileRows(
      layout(held('sales', 'Sales'), formula('a', ['b', 1]), formula('b', ['a', 1])),
      CHART,
      EUR,
    );
    expect(issues.map(({ code, params }) => [code, params['rows']])).toEqual([['CORE_LAYOUT_CYCLE', 'a, b']]);
    expect(rows.map(({ id, inCycle }) => [id, inCycle])).toEqual([
      ['sales', false],
      ['a', true],
      ['b', true],
    ]);
  });

  it('names unknown and repeated ids', () => {
    expect(compileRows(layout(formula('a', ['none', 1])), CHART, EUR).issues[0]).toMatchObject({
      code: 'CORE_LAYOUT_UNKNOWN_ID',
    });
    expect(compileRows(layout(held('a', 'Sales'), held('a', 'Goods')), CHART, EUR).issues[0]).toMatchObject({
      code: 'CORE_LAYOUT_ID_TWICE',
    });
  });
});

describe('membersOf', () => {
  it.each([
    [[{ by: 'nature', nature: 'income' }], [], [0, 1]],
    [[{ by: 'sub_heading', heading: 'Sales', subHeading: 'Tiles' }], [], [0]],
    [[{ by: 'range', from: '4000', to: '5999' }], [{ by: 'account', number: '4100' }], [0, 2]],
    [[{ by: 'role', role: 'rounding' }], [], [1]],
  ] as const)('%j without %j', (include, exclude, members) => {
    expect(membersOf({ include: [...include], exclude: [...exclude] }, CHART)).toEqual(members);
  });
});

describe('proposeRows', () => {
  it('places every account of profit or loss once, in a layout that the schema takes', () => {
    const proposed = proposeRows('income', CHART);
    expect(v.parse(RowLayoutSchema, proposed)).toEqual(proposed);
    const { rows, issues } = compileRows(proposed, CHART, EUR);
    expect(issues).toEqual([]);
    const placed = rows.flatMap(({ rule }) =>
      rule.from === 'accounts' ? rule.members.map((member) => member.account) : [],
    );
    expect(placed.sort()).toEqual([0, 1, 2, 3]);
  });
});

describe('CoreError', () => {
  it('says what it is about', () => {
    expect(new CoreError('CORE_AMOUNT_OVERFLOW', { where: 'Net sales' }).message).toContain('Net sales');
  });
});
