import { inTreeOrder, nodesOf, valueDepths, valueTree } from './value-tree';

const value = (dimension: string, code: string, parent = '') => [dimension, code, `Name of ${code}`, parent];

describe('the values of a dimension', () => {
  it('stand in the order of their tree, each dimension on its own', () => {
    const rows = [
      value('region', 'FR', 'EU'),
      value('region', 'EU'),
      value('team', 'EU'),
      value('region', 'PARIS', 'FR'),
      value('region', 'US'),
    ];
    const ordered = inTreeOrder(rows);
    expect(ordered.map(([dimension, code]) => `${dimension} ${code}`)).toEqual([
      'region EU',
      'region FR',
      'region PARIS',
      'region US',
      'team EU',
    ]);
    expect(ordered.map(valueDepths(rows))).toEqual([0, 1, 2, 0, 0]);
  });

  it('are all there when one stands below itself or below one that is missing', () => {
    const rows = [value('d', 'A', 'B'), value('d', 'B', 'A'), value('d', 'C', 'gone'), value('d', 'D', 'D')];
    expect(inTreeOrder(rows)).toHaveLength(4);
    expect(rows.map(valueDepths(rows))).toEqual([0, 0, 0, 0]);
  });

  it('are a tree, with the dimension on top and all below a node counted', () => {
    const rows = [
      value('cost_center', 'FR', 'EU'),
      value('cost_center', 'EU'),
      value('cost_center', 'PARIS', 'FR'),
      value('team', 'EU'),
      // as they are typed
      ['', '', '', ''],
      ['cost_center', '', 'No code yet', ''],
      value('team', 'EU'),
    ];
    const told = nodesOf(valueTree(rows)).map(({ label, count }) => `${label} ${count}`);
    expect(told).toEqual([
      'Cost center 3',
      'Name of EU 2',
      'Name of FR 1',
      'Name of PARIS 0',
      'Team 1',
      'Name of EU 0',
    ]);
  });
});
