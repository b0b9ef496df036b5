import { consolidatedWith, isConsolidated, type Holding } from './consolidated-with';

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
const codes = (entity: string, day: string, held = HELD) =>
  consolidatedWith(entity, held, day)
    .map(({ code }) => code)
    .sort();

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
      expect.arrayContaining([
        { code: 'TOP', spans: undefined },
        { code: 'B', spans: [{ from: '2024-04-01', until: undefined }] },
        { code: 'C', spans: [{ from: '2026-06-01', until: undefined }] },
      ]),
    );
  });

  it('keeps what was lost for the time it was held, and takes it in anew when it is bought back', () => {
    const sold = [...HELD, holding('TOP', 'B', '2025-10-01', '0')];
    const lost = { code: 'B', spans: [{ from: '2024-04-01', until: '2025-10-01' }] };
    expect(consolidatedWith('A', sold, '2026-08-31')).toContainEqual(lost);
    const back = consolidatedWith('TOP', [...sold, holding('TOP', 'B', '2026-07-01', '55')], '2026-08-31');
    expect(back).toContainEqual({ code: 'B', spans: [...lost.spans, { from: '2026-07-01', until: undefined }] });
    const associate = [...HELD, holding('TOP', 'B', '2025-10-01', '40', 'equity')];
    expect(consolidatedWith('TOP', associate, '2026-08-31')).toContainEqual(lost);
    // what was lost has no group any more when it is looked at itself
    expect(codes('B', '2026-08-31', sold)).toEqual(['B']);
  });
});

describe('isConsolidated', () => {
  it('holds for months that end while control lasts', () => {
    const member = { spans: [{ from: '2024-04-15', until: '2025-10-01' }] };
    expect(['2024-03-31', '2024-04-30', '2025-09-30', '2025-10-31'].map((end) => isConsolidated(member, end))).toEqual([
      false,
      true,
      true,
      false,
    ]);
    expect(isConsolidated({ spans: undefined }, '1999-01-31')).toBe(true);
  });
});
