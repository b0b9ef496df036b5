import { consolidatedBy, scopeTree } from './group-scope';
import type { Holding } from './group-structure';

const holding = (investor: string, investee: string, from: string, percent = '100', method = 'full'): Holding => ({
  investor,
  investee,
  from,
  percent,
  method,
});
const HELD = [
  holding('TOP', 'A', '2024-04-01'),
  holding('TOP', 'B', '2024-04-01', '80'),
  holding('A', 'C', '2026-06-01', '60'),
  holding('TOP', 'E', '2024-04-01', '30', 'equity'),
  holding('X', 'Y', '2024-04-01'),
];
const heldOn = (day: string, held = HELD, top = 'TOP') => [...consolidatedBy(top, held)(day).keys()].sort();

describe('consolidatedBy', () => {
  it('finds those that an entity consolidates, also through others, and itself', () => {
    expect(heldOn('2026-08-31')).toEqual(['A', 'B', 'C', 'TOP']);
    expect(heldOn('2026-08-31', HELD, 'A')).toEqual(['A', 'C']);
    expect(heldOn('2026-08-31', HELD, 'Y')).toEqual(['Y']);
  });

  it('leaves out associates, other groups, and what is not bought yet', () => {
    expect(heldOn('2026-05-31')).toEqual(['A', 'B', 'TOP']);
    expect(heldOn('2024-03-31')).toEqual(['TOP']);
  });

  it('keeps what was lost for the time it was held, and takes it in anew when it is bought back', () => {
    const more = [...HELD, holding('TOP', 'B', '2025-10-01', '90')];
    expect(heldOn('2025-10-31', more)).toContain('B');
    const sold = [...HELD, holding('TOP', 'B', '2025-10-01', '0')];
    expect(heldOn('2025-09-30', sold)).toContain('B');
    expect(heldOn('2025-10-01', sold)).not.toContain('B');
    expect(heldOn('2026-08-31', [...sold, holding('TOP', 'B', '2026-07-01', '55')])).toContain('B');
    expect(heldOn('2026-08-31', [...HELD, holding('TOP', 'B', '2025-10-01', '40', 'equity')])).not.toContain('B');
  });

  it('loses with an entity those that it holds', () => {
    const sold = [...HELD, holding('TOP', 'A', '2026-07-01', '0')];
    expect(heldOn('2026-06-30', sold)).toEqual(['A', 'B', 'C', 'TOP']);
    expect(heldOn('2026-07-31', sold)).toEqual(['B', 'TOP']);
  });

  it('comes to an end where entities hold each other', () => {
    const circle = [holding('A', 'B', '2024-01-01'), holding('B', 'A', '2024-01-01')];
    expect(heldOn('2026-08-31', circle, 'A')).toEqual(['A', 'B']);
    expect(heldOn('2026-08-31', circle, 'TOP')).toEqual(['TOP']);
  });
});

describe('scopeTree', () => {
  const MEMBERS: Record<string, string[]> = { ALL: ['TOP', 'A', 'B', 'C'], SUB: ['B', 'C'], OTHER: ['D'] };
  const groups = [
    { code: 'ALL', parent: '' },
    { code: 'OTHER', parent: '' },
    { code: 'SUB', parent: 'ALL' },
  ];
  const tree = (entities: string[]) =>
    scopeTree(groups, entities, (group) => MEMBERS[group]!).map(({ code, depth }) => `${depth} ${code}`);

  it('places each entity once, in the lowest of its groups, and those of none last', () => {
    expect(tree(['TOP', 'A', 'B', 'C', 'D', 'ALONE'])).toEqual([
      ...['0 ALL', '1 SUB', '2 B', '2 C', '1 TOP', '1 A'],
      ...['0 OTHER', '1 D', '0 ALONE'],
    ]);
    expect(tree(['A'])).toEqual(['0 ALL', '1 SUB', '1 A', '0 OTHER']); // what may not be seen is left out
  });

  it('cuts groups that are part of each other', () => {
    const circle = [
      { code: 'X', parent: 'Y' },
      { code: 'Y', parent: 'X' },
    ];
    expect(scopeTree(circle, ['A'], () => ['A'])).toEqual([{ code: 'A', depth: 0 }]);
  });
});
