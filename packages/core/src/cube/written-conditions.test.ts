import fc from 'fast-check';
import type { NamedCondition } from './dimension-condition';
import { readConditions, writeConditions } from './written-conditions';

describe('demands in an address', () => {
  it('say values of which any counts, none of them, any, or no value', () => {
    expect(readConditions('region:north,region:south%2C%20far,!line:tiles,!project:,partner:')).toEqual([
      { dimension: 'region', has: 'in', values: ['north', 'south, far'] },
      { dimension: 'line', has: 'not_in', values: ['tiles'] },
      { dimension: 'project', has: 'any', values: [] },
      { dimension: 'partner', has: 'none', values: [] },
    ]);
    expect(readConditions(undefined)).toEqual([]);
    expect(readConditions('')).toEqual([]);
  });

  it('say nothing while their values are not named', () => {
    expect(writeConditions([{ dimension: 'line', has: 'not_in', values: [] }])).toBe('');
  });

  it('take a value that is not encoded as it stands', () => {
    expect(readConditions('team:%,team:100%25,team:%E0%A4')).toEqual([
      { dimension: 'team', has: 'in', values: ['%', '100%', '%E0%A4'] },
    ]);
  });

  it('come back as they were written', () => {
    const value = fc.string({ minLength: 1 });
    const demand = fc.oneof(
      fc.record({
        dimension: fc.constantFrom('region', 'line', 'project'),
        has: fc.constantFrom('in' as const, 'not_in' as const),
        values: fc.uniqueArray(value, { minLength: 1, maxLength: 4 }),
      }),
      fc.record({
        dimension: fc.constantFrom('region', 'line', 'project'),
        has: fc.constantFrom('any' as const, 'none' as const),
        values: fc.constant<string[]>([]),
      }),
    );
    const demands = fc.uniqueArray(demand, { selector: ({ dimension }) => dimension, maxLength: 3 });
    fc.assert(
      fc.property(demands, (written: NamedCondition[]) =>
        expect(readConditions(writeConditions(written))).toEqual(written),
      ),
    );
  });
});
