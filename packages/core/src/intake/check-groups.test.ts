import { checkGroups } from './check-groups';

const found = (...groups: [code: string, parent: string][]) =>
  checkGroups(
    groups.map(([code, parent]) => ({ code, parent_group: parent })),
    new Set(['TOP']),
  ).map(({ code, params }) => `${code} ${String(params['code'] ?? params['text'])}`);

describe('groups', () => {
  it('can be part of one another', () => {
    expect(found(['ALL', ''], ['EAST', 'ALL'], ['FAR', 'EAST'])).toEqual([]);
  });

  it('are refused where they are part of themselves, of one that is not there, or bear the code of an entity', () => {
    expect(found(['A', 'B'], ['B', 'A'], ['C', 'B'])).toEqual(['CORE_GROUP_CIRCULAR A', 'CORE_GROUP_CIRCULAR B']);
    expect(found(['A', 'X'])).toEqual(['CORE_REFERENCE_UNKNOWN X']);
    expect(found(['TOP', ''])).toEqual(['CORE_GROUP_CODE_TAKEN TOP']);
  });
});
