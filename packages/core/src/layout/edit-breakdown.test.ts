import fc from 'fast-check';
import type { Breakdown } from './breakdown-document';
import {
  changeAxis,
  newAxis,
  openLevels,
  putAxis,
  removeAxis,
  replaceAxis,
  setDemand,
  swapAxes,
  turnOpen,
} from './edit-breakdown';

const axes = (...fields: string[]) => fields.map((by) => ({ by }));
const PLAIN: Breakdown = { of: ['sales'], down: axes('product', 'channel'), across: axes('region') };
const fieldsOf = ({ down, across }: Breakdown) => [down, across].map((side) => side.map(({ by }) => by));

describe('a breakdown', () => {
  it('has a field once, wherever it is put (property)', () => {
    const someField = fc.constantFrom('product', 'channel', 'region', 'team');
    const somePlace = fc.record({ side: fc.constantFrom('down' as const, 'across' as const), at: fc.nat({ max: 4 }) });
    fc.assert(
      fc.property(fc.array(fc.tuple(someField, somePlace), { maxLength: 8 }), (moves) => {
        let breakdown = PLAIN;
        for (const [by, place] of moves) {
          breakdown = putAxis(breakdown, { by }, place);
          expect(breakdown[place.side].some((axis) => axis.by === by)).toBe(true);
        }
        const all = fieldsOf(breakdown).flat();
        expect(new Set(all).size).toBe(all.length);
        for (const by of ['product', 'channel', 'region']) expect(all).toContain(by);
      }),
    );
  });

  it('puts an axis before the one that stands at a place, also when it stood before it', () => {
    expect(fieldsOf(putAxis(PLAIN, { by: 'product' }, { side: 'down', at: 2 }))).toEqual([
      ['channel', 'product'],
      ['region'],
    ]);
    expect(fieldsOf(putAxis(PLAIN, { by: 'channel' }, { side: 'across', at: 0 }))).toEqual([
      ['product'],
      ['channel', 'region'],
    ]);
  });

  it('changes, replaces and takes away an axis by its field', () => {
    expect(changeAxis(PLAIN, 'region', (axis) => ({ ...axis, top: 3 })).across).toEqual([{ by: 'region', top: 3 }]);
    // what takes its place stands once
    expect(fieldsOf(replaceAxis(PLAIN, 'product', { by: 'region' }))).toEqual([['region', 'channel'], []]);
    expect(fieldsOf(removeAxis(PLAIN, 'channel'))).toEqual([['product'], ['region']]);
    expect(fieldsOf(swapAxes(PLAIN))).toEqual([['region'], ['product', 'channel']]);
  });

  it('begins a field of many values with the largest, the rest together', () => {
    expect(newAxis({ isTime: false, by: 'team', values: 4 })).toEqual({ by: 'team' });
    expect(newAxis({ isTime: false, by: 'partner', values: 4000 })).toEqual({ by: 'partner', top: 10 });
  });

  it('opens and closes a value, or a level, and is as it was when that is taken back', () => {
    const opened = turnOpen(PLAIN, 'product:a');
    expect(opened.open).toEqual(['product:a']);
    expect(turnOpen(opened, 'product:a')).toEqual(PLAIN);
    expect(openLevels(openLevels(opened, 1), 1).open).toEqual(['+2']);
    expect(openLevels(openLevels(PLAIN, 1), -1)).toEqual(PLAIN);
    expect(openLevels(PLAIN, -1)).toEqual(PLAIN);
  });

  it('demands one thing of a field, or nothing', () => {
    const only = setDemand(PLAIN, 'product', { has: 'in', values: ['a'] });
    const other = setDemand(only, 'product', { has: 'not_in', values: ['b'] });
    expect(other.where).toEqual([{ dimension: 'product', has: 'not_in', values: ['b'] }]);
    expect(setDemand(other, 'product', undefined)).toEqual(PLAIN);
  });
});
