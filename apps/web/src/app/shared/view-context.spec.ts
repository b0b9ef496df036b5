import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { asAtText, resolveContext } from './view-context';

const resolve = (query: Record<string, string>, statement?: string) =>
  resolveContext(SAMPLE_WORKSPACE, statement, query);

describe('resolveContext', () => {
  it('starts with the default statement and scope at the last posted month', () => {
    expect(resolve({})).toMatchObject({
      statement: 'income_statement',
      scope: { code: 'LMG' },
      asAt: { key: 'FY2027-P05' },
      columns: 'month',
      unit: 1000,
    });
  });

  it('of an entity without postings stands where the books of the others end, and knows that there is nothing', () => {
    const entities = [...SAMPLE_WORKSPACE.entities, { ...SAMPLE_WORKSPACE.entities[0]!, code: 'NEW', posted: [] }];
    const context = resolveContext({ ...SAMPLE_WORKSPACE, entities }, undefined, { scope: 'NEW' })!;
    expect([context.asAt.key, context.postedMonths]).toEqual(['FY2027-P05', 0]);
    expect([resolve({})!.postedMonths, resolve({ as_at: '2026-07' })!.postedMonths]).toEqual([3, 2]);
  });

  it('takes months, adjustment periods, columns, unit and the path of the Lens from the address', () => {
    const context = resolve({
      scope: 'LMT',
      as_at: 'FY2026-P13',
      columns: 'twelve',
      unit: '1',
      cell: 'a~b',
      trace: 'x~1|y~2',
    })!;
    expect(context).toMatchObject({
      scope: { code: 'LMT' },
      columns: 'twelve',
      unit: 1,
      cell: 'a~b',
      trace: ['x~1', 'y~2'],
    });
    expect(asAtText(context.asAt)).toBe('FY2026-P13');
    expect(asAtText(resolve({ as_at: '2026-07' })!.asAt)).toBe('2026-07');
  });

  it('falls back where the address names what is not there, and says so, but keeps an unknown statement so that it is told', () => {
    expect(resolve({ scope: 'NONE', as_at: '2050-01', columns: 'none', unit: '7' }, 'lost')).toMatchObject({
      statement: 'lost',
      scope: { code: 'LMG' },
      asAt: { key: 'FY2027-P05' },
      columns: 'month',
      unit: 1000,
      unknown: ['entity or group “NONE”', 'month “2050-01”', 'columns “none”'],
    });
    expect(resolve({ scope: 'LMT', as_at: '2026-07' })!.unknown).toEqual([]);
    expect(resolve({})!.unknown).toEqual([]);
    // who may not see the usual scope has asked for nothing that is not there
    const defaults = { ...SAMPLE_WORKSPACE.defaults, scope: null };
    const begun = resolveContext({ ...SAMPLE_WORKSPACE, defaults }, undefined, {})!;
    expect([begun.scope.code, begun.unknown]).toEqual([SAMPLE_WORKSPACE.entities[0]!.code, []]);
  });

  it('asks for a version that is not there, so that this is told rather than actual figures shown', () => {
    expect(resolve({ version: 'NOPE', against: 'NOR' })).toMatchObject({ version: 'NOPE', against: 'NOR' });
    expect(resolve({})).toMatchObject({ version: undefined, against: undefined });
  });

  it('opens with the filter of its statement, which the address changes or takes off', () => {
    const usual = [{ dimension: 'channel', has: 'not_in' as const, values: ['retail'] }];
    const demands = (may: boolean, query: Record<string, string>) => {
      const readers = { dimensions: { may, usual } };
      const statements = SAMPLE_WORKSPACE.statements.map((each) => ({ ...each, readers }));
      const workspace = { ...SAMPLE_WORKSPACE, statements };
      // a planning sheet or the ledger does not open with the filter of a statement
      expect(resolveContext(workspace, undefined, {})!.demands).toBeUndefined();
      return resolveContext(workspace, 'income_statement', query)!.demands;
    };
    expect(demands(true, {})).toBe('!channel:retail');
    expect(demands(true, { where: 'channel:online' })).toBe('channel:online');
    expect(demands(true, { where: '' })).toBe('');
    expect(demands(false, { where: '' })).toBe('!channel:retail');
    expect(resolve({}, undefined)!.demands).toBeUndefined();
  });

  it('shapes statements alone: a breakdown is shaped where it stands', () => {
    const kept = { ...SAMPLE_WORKSPACE.statements[0]!, id: 'by_product', name: 'By product' };
    const workspace = { ...SAMPLE_WORKSPACE, breakdowns: [kept] };
    const of = (id: string, query: Record<string, string>) => resolveContext(workspace, id, { shape: '1', ...query })!;
    expect(of('income_statement', {}).isShaped).toBe(true);
    expect(of('by_product', {}).isShaped).toBe(false);
    expect(of('by_product', { charts: '' })).toMatchObject({ isShaped: false, isCharted: true });
    expect(of('income_statement', { breakdown: '{}' }).isShaped).toBe(false);
  });

  it('is undefined while there are no books', () => {
    expect(resolveContext({ ...SAMPLE_WORKSPACE, entities: [] }, undefined, {})).toBeUndefined();
  });
});
