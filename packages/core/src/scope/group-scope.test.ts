import { scopeTree } from './group-scope';

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
