import { LocalCodes } from './local-codes';

const rule = (from: string, to: string, since = '', entity = 'SUB') => ({ entity, from, to, since });

describe('codes of an entity’s own', () => {
  const codes = new LocalCodes(
    [rule('3000..3199, 3300', '4000'), rule('3100', '4100', '2026-04-01'), rule('19', '1000'), rule('3005', '4200')],
    [{ ...rule('rot', 'red'), dimension: 'team' }],
  );

  it('stand for one of the group: many for one, by range with exceptions, from a day on', () => {
    const on = (day: string) =>
      ['3000', '3100', '3300', '3200', '19', '3005'].map((code) => codes.account('SUB', code, day));
    expect(on('2026-03-31')).toEqual(['4000', '4000', '4000', undefined, '1000', '4200']);
    expect(on('2026-04-01')).toEqual(['4000', '4100', '4000', undefined, '1000', '4200']);
    expect(codes.changesOf('SUB')).toEqual(['2026-04-01']);
  });

  it('are those of one entity, and of one dimension', () => {
    expect(codes.account('TOP', '3000', '2026-04-01')).toBeUndefined();
    expect(codes.value('SUB', 'team', 'rot', '2026-04-01')).toBe('red');
    expect(codes.value('SUB', 'region', 'rot', '2026-04-01')).toBeUndefined();
    expect(['SUB', 'TOP'].map((entity) => codes.hasOwnAccounts(entity))).toEqual([true, false]);
    expect(codes.hasOwnValues('SUB', 'team')).toBe(true);
  });
});
