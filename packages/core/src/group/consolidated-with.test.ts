import { consolidatedWith, type Holding } from './consolidated-with';

const holding = (investor: string, investee: string, from: string, percent = '100', method = 'full'): Holding => ({ investor, investee, from, percent, method }); // prettier-ignore
const HELD = [
  holding('TOP', 'A', '2024-04-01'),
  holding('TOP', 'B', '2024-04-01', '80'),
  holding('A', 'C', '2026-06-01', '60'),
  holding('TOP', 'E', '2024-04-01', '30', 'equity'),
  holding('X', 'Y', '2024-04-01'),
];
const codes = (entity: string, day: string, held = HELD) => consolidatedWith(entity, held, day).map(({ code }) => code).sort(); // prettier-ignore

describe('consolidatedWith', () => {
  it('finds those that are consolidated with an entity, up and down', () => {
    expect(codes('C', '2026-08-31')).toEqual(['A', 'B', 'C', 'TOP']);
    expect(codes('TOP', '2026-08-31')).toEqual(['A', 'B', 'C', 'TOP']);
  });

  it('leaves out associates, other groups, and what is not bought yet', () => {
    expect(codes('A', '2026-05-31')).toEqual(['A', 'B', 'TOP']);
    expect(codes('E', '2026-08-31')).toEqual(['E']);
    expect(codes('Y', '2026-08-31')).toEqual(['X', 'Y']);
  });

  it('says since when each is in it, whatever the share did since', () => {
    const more = [...HELD, holding('TOP', 'B', '2025-10-01', '90')];
    expect(consolidatedWith('TOP', more, '2026-08-31')).toEqual(
      expect.arrayContaining([{ code: 'TOP', since: undefined }, { code: 'B', since: '2024-04-01' }, { code: 'C', since: '2026-06-01' }]),
    ); // prettier-ignore
  });

  it('lets go of what was sold, and takes it in anew when it is bought back', () => {
    const sold = [...HELD, holding('TOP', 'B', '2025-10-01', '0')];
    expect(codes('TOP', '2026-08-31', sold)).toEqual(['A', 'C', 'TOP']);
    const back = consolidatedWith('TOP', [...sold, holding('TOP', 'B', '2026-07-01', '55')], '2026-08-31');
    expect(back).toContainEqual({ code: 'B', since: '2026-07-01' });
    expect(codes('TOP', '2026-08-31', [...HELD, holding('TOP', 'B', '2025-10-01', '40', 'equity')])).toEqual([
      'A',
      'C',
      'TOP',
    ]);
  });
});
