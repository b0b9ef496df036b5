import type { Breakdown } from './breakdown-document';
import { rowsOf, turnItem, turnItems, turnMeasure } from './edit-items';
import { MOST_ITEMS } from './item-measure';

const PLAIN: Breakdown = { of: ['sales'], down: [{ by: 'product' }, { by: 'channel' }], across: [{ by: 'region' }] };

describe('what is broken down', () => {
  it('has several rows beside each other, never none', () => {
    const two = turnItem(PLAIN, 'costs');
    expect(two).toMatchObject({ of: ['sales', 'costs'], items: 'beside' });
    expect(turnItems(two).items).toBeUndefined();
    expect(turnItem(two, 'costs')).toEqual(PLAIN);
    expect(turnItem(PLAIN, 'sales')).toEqual(PLAIN);
  });

  it('measures rows in several ways, the figure first, never in none', () => {
    const measured = turnMeasure(turnMeasure(PLAIN, 'lines', ['sales']), 'quantity', ['sales']);
    expect(measured).toMatchObject({ of: ['sales', 'sales:quantity', 'sales:lines'], items: 'beside' });
    const two = turnItem(measured, 'costs');
    expect(two.of).toEqual(['sales', 'sales:quantity', 'sales:lines', 'costs']);
    expect(turnMeasure(two, 'quantity', ['sales', 'costs']).of).toEqual([
      ...['sales', 'sales:quantity', 'sales:lines'],
      ...['costs', 'costs:quantity'],
    ]);
    const counted = turnMeasure(turnMeasure(PLAIN, 'quantity', ['sales']), undefined, ['sales']);
    expect(counted.of).toEqual(['sales:quantity']);
    expect(turnMeasure(counted, 'quantity', ['sales']).of).toEqual(['sales:quantity']);
    expect(turnItem(two, 'sales').of).toEqual(['costs']);
    expect(rowsOf(two)).toEqual(['sales', 'costs']);
  });

  it('are as they were where more would be too many', () => {
    const most = { ...PLAIN, of: Array.from({ length: MOST_ITEMS }, (_, at) => `row${at}`) };
    expect(turnItem(most, 'more')).toBe(most);
    expect(turnMeasure(most, 'lines', ['row0'])).toBe(most);
    expect(turnItem(most, 'row0').of).toHaveLength(MOST_ITEMS - 1);
  });
});
