import type { ClosingView, EvidenceView, IssueChecksView } from '@margin-lens/contract';
import type { ClosingTask } from '@margin-lens/core';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

/** Months of a fiscal year that begins in April 2025. */
const APRIL = Array.from({ length: 12 }, (_, at) => {
  const [first, last] = [new Date(Date.UTC(2025, 3 + at, 1)), new Date(Date.UTC(2025, 4 + at, 0))];
  const [start, end] = [first, last].map((day) => day.toISOString().slice(0, 10));
  return `april,2026,${at + 1},${start!.slice(0, 7)},${start},${end},regular,${Math.ceil((at + 1) / 3)}`;
});

// One holds Two until the first of March, and Three, whose year begins in April
beforeEach(() =>
  serve(
    tinyFiles({
      'calendars.csv': [String(tinyFiles()['calendars.csv']).trimEnd(), ...APRIL, ''].join('\n'),
      'entities.csv': 'code,name,currency,calendar\nONE,One,EUR,cal\nTWO,Two,EUR,cal\nTHREE,Three,EUR,april\n',
      'ownership.csv': [
        'investor,investee,from,percent,method',
        'ONE,TWO,2026-01-01,100,full',
        'ONE,TWO,2026-03-01,0,full',
        'ONE,THREE,2026-01-01,100,full',
        '',
      ].join('\n'),
      'journals.csv': [
        String(tinyFiles()['journals.csv']).trimEnd(),
        'TWO,T1,,1,2026-02-03,,1000,77.00,,,Sales,',
        'TWO,T1,,2,2026-02-03,,4000,,77.00,,Sales,',
        'THREE,H1,,1,2026-02-03,,1000,50.00,,,Sales,',
        'THREE,H1,,2,2026-02-03,,4000,,50.00,,Sales,',
        '',
      ].join('\n'),
    }),
  ),
);

const [FEBRUARY, MARCH] = ['2026-02', '2026-03'];
const at = (scope: string, as_at: string) => new URLSearchParams({ scope, as_at });
const closing = async (scope: string, month: string) =>
  (await ask<ClosingView>('GET', `/closing?${at(scope, month)}`)).body;
const task = (id: string, day: number): ClosingTask => ({ id, name: id, owner: '', day, scope: '', note: '' });

describe('the month end of a group', () => {
  beforeEach(async () => {
    const { revision } = await closing('ALL', FEBRUARY);
    await ask('PUT', '/closing/list', { base: revision, list: { tasks: [task('report', 3)], owners: {} } });
  });

  it('is that of the entities that it holds then', async () => {
    const of = async (month: string) => (await closing('ALL', month)).tasks.map((each) => each.of.code).sort();
    expect(await of(FEBRUARY)).toEqual(['ONE', 'THREE', 'TWO']);
    // Two was sold on the first day of the month
    expect(await of(MARCH)).toEqual(['ONE', 'THREE']);
  });

  it('ticks off what entities have done in the month of their own calendars', async () => {
    // their eleventh month, and the second of the group
    const own = await closing('THREE', FEBRUARY);
    const tick = { scope: 'THREE', period: own.asAt.key, task: 'report', isDone: true };
    expect(own.asAt.key).toBe('FY2026-P11');
    expect((await ask('POST', '/closing/ticks', tick)).status).toBe(204);
    const done = async (month: string) =>
      Object.fromEntries((await closing('ALL', month)).tasks.map((each) => [each.of.code, each.done !== null]));
    expect(await done(FEBRUARY)).toEqual({ ONE: false, TWO: false, THREE: true });
    expect(await done(MARCH)).toEqual({ ONE: false, THREE: false });
  });

  it('counts balances with evidence by entity, those that are held then', async () => {
    const of = async (month: string) => {
      const { body } = await ask<EvidenceView>('GET', `/evidence?${at('ALL', month)}`);
      return body.entities.map(({ code, open, accounts }) => [code, open, accounts]);
    };
    const cash = {
      ...{ scope: 'THREE', account: '1000', period: 'FY2026-P11', source: 'bank', amount: 5_000, dated: '' },
      ...{ note: '', owner: '', accepted: false, files: [] },
    };
    expect((await ask('PUT', '/evidence', { base: 99, put: [cash], remove: [] })).status).toBe(204);
    expect(await of(FEBRUARY)).toEqual([
      ['ONE', 2, 2],
      ['TWO', 1, 1],
      ['THREE', 0, 1],
    ]);
    expect((await of(MARCH)).map(([code]) => code)).toEqual(['ONE', 'THREE']);
  });

  it('counts entities that still take postings, those that are held then', async () => {
    const says = async (month: string) => {
      const { body } = await ask<IssueChecksView>('GET', `/closing/checks?${at('ALL', month)}`);
      return body.checks.find(({ check }) => check === 'closed')!.says.join(' ');
    };
    expect(await says(FEBRUARY)).toBe('3 entities still take postings');
    const closed = { entities: ['THREE'], periods: ['FY2026-P12'], status: 'closed' };
    await ask('PUT', '/periods', closed);
    expect(await says(MARCH)).toBe('One still takes postings');
  });
});
