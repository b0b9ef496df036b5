import { type PackageFiles, bringIn, query, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import type { ImportOutcome } from './import-request';
import { undo } from '../../../test/opened-store';

const HEAD = 'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team';
/** A delivery of January and February: J1 with another amount, J2 left out, J3 new. */
const SECOND: PackageFiles = {
  'journals.csv': [
    HEAD,
    'ONE,J1,,1,2026-01-31,,1000,1100.00,,,Sales in January,',
    'ONE,J1,,2,2026-01-31,,4000,,1100.00,,Sales in January,red',
    'ONE,J3,,1,2026-02-11,,5000,40.00,,,Cleaning,',
    'ONE,J3,,2,2026-02-11,,1000,,40.00,,Cleaning,',
    '',
  ].join('\n'),
};

const replacing = (file: string, more: Parameters<typeof bringIn>[3] = {}): Promise<ImportOutcome> =>
  bringIn(file, tinyFiles(SECOND), undefined, { replacesChanged: true, ...more });

/** What the books say now: current journals with their lines, figures, master data, and balances. */
const books = (file: string): string =>
  JSON.stringify([
    query(
      file,
      `select j.entity, j.fiscal_year, j.number, j.kind, l.line, l.date, l.period, l.account, l.basis, l.debit, l.credit,
         l.quantity, l.combination, l.description
       from journal j join journal_line l on l.journal = j.id where j.until is null order by 1, 2, 3, 5`,
    ),
    query(file, 'select entity, account, period, amount from figure where until is null order by 1, 2, 3'),
    query(file, 'select number, name, nature from account where until is null order by number'),
    query(file, 'select kind, id, body from document where until is null order by 1, 2'),
    query(file, 'select * from balance order by 1, 2, 3, 4, 5, 6, 7'),
  ]);

const balancesMinusLines = (file: string) =>
  query(
    file,
    `select entity, account, period, combination, basis, entry_kind, debit, credit, quantity from balance where version = 0
     except select l.entity, l.account, l.period, l.combination, l.basis, j.kind, sum(l.debit), sum(l.credit), sum(l.quantity)
     from journal_line l join journal j on j.id = l.journal where j.until is null group by 1, 2, 3, 4, 5, 6`,
  );

const currentJournals = (file: string) =>
  query<{ number: string }>(file, 'select number from journal where until is null order by number').map(
    (j) => j.number,
  );

async function twoDeliveries(more?: Parameters<typeof bringIn>[3]) {
  const file = await workspaceOf();
  const before = books(file);
  const outcome = await replacing(file, more);
  return { file, before, outcome };
}

describe('a later delivery', () => {
  it('replaces journals that come with other content, and balances follow', async () => {
    const { file, outcome } = await twoDeliveries();
    expect(outcome).toMatchObject({ state: 'done', counts: { journals: 1, changedJournals: 1, removedJournals: 0 } });
    expect(currentJournals(file)).toEqual(['J1', 'J2', 'J3', 'O1', 'S1', 'Y1']);
    expect(query(file, `select until from journal where number = 'J1' order by id`)).toEqual([
      { until: 2 },
      { until: null },
    ]);
    expect(balancesMinusLines(file)).toEqual([]);
  });

  it('refuses a journal that comes changed and is not balanced, or is of another kind than in the books', async () => {
    const unbalanced = (SECOND['journals.csv'] as string).replace(',,1100.00,,Sales', ',,1000.00,,Sales');
    const opening = (SECOND['journals.csv'] as string).replaceAll('ONE,J1,,', 'ONE,J1,opening,');
    for (const [journals, code] of [
      [unbalanced, 'CORE_JOURNAL_UNBALANCED'],
      [opening, 'CORE_JOURNAL_KIND_MIXED'],
    ] as const) {
      const file = await workspaceOf();
      const before = books(file);
      const outcome = await bringIn(file, tinyFiles({ 'journals.csv': journals }), undefined, {
        replacesChanged: true,
      });
      if (outcome.state !== 'refused') throw new Error(outcome.state);
      expect(outcome.findings.shown.map((found) => found.code)).toEqual([code]);
      expect(books(file)).toBe(before);
    }
  });

  it('takes out journals of its months that it leaves out only when it is said to be complete', async () => {
    const { file, outcome } = await twoDeliveries({ isComplete: true });
    expect(outcome).toMatchObject({ counts: { removedJournals: 2 } });
    expect(currentJournals(file)).toEqual(['J1', 'J3', 'O1', 'Y1']);
    expect(balancesMinusLines(file)).toEqual([]);
  });

  it('says beforehand what it would change, by month and account, and writes nothing', async () => {
    const { file, before, outcome } = await twoDeliveries({ isTrial: true, isComplete: true });
    expect(books(file)).toBe(before);
    if (outcome.state !== 'checked') throw new Error(outcome.state);
    const shown = outcome.effect.months.map((m) => [
      m.period,
      m.journalsAdded,
      m.journalsChanged,
      m.journalsRemoved,
      m.profit,
    ]);
    // January: sales 1,100 instead of 1,000. February: rent of 300 and the joiners go, cleaning of 40 comes.
    expect(shown).toEqual([
      ['FY2026-P01', 0, 1, 0, 10_000],
      ['FY2026-P02', 1, 0, 2, 26_000],
    ]);
    expect(outcome.effect.accounts.map(({ number, before: stood, change }) => [number, stood, change])).toEqual([
      ['1000', 117_500, 36_000],
      ['4000', -100_000, -10_000],
      ['5000', 32_500, -26_000],
    ]);
  });

  it('is refused where it changes a closed period, and says how to go on', async () => {
    const file = await workspaceOf(tinyFiles({ 'period_status.csv': 'entity,period,status\nONE,FY2026-P01,closed\n' }));
    const outcome = await replacing(file);
    if (outcome.state !== 'refused') throw new Error(outcome.state);
    expect(outcome.findings.shown.map(({ code }) => code)).toContain('CORE_JOURNAL_PERIOD_CLOSED');
    expect(currentJournals(file)).toEqual(['J1', 'J2', 'O1', 'S1', 'Y1']);
  });
});

describe('undoImport', () => {
  it('brings the books back to what they were before the latest delivery', async () => {
    const { file, before } = await twoDeliveries({ isComplete: true });
    expect(await undo(file, 2)).toEqual({ journals: 2, lines: 4 });
    expect(books(file)).toBe(before);
    expect(balancesMinusLines(file)).toEqual([]);
  });

  it('goes back delivery by delivery, down to an empty workspace', async () => {
    const { file } = await twoDeliveries();
    await expect(undo(file, 1)).rejects.toThrow('Only the latest');
    await undo(file, 2);
    await undo(file, 1);
    expect(JSON.parse(books(file))).toEqual([[], [], [], [], []]);
  });

  it('lets the same files be brought in again without asking', async () => {
    const { file } = await twoDeliveries();
    await undo(file, 2);
    expect(await replacing(file)).toMatchObject({ state: 'done', counts: { journals: 1, changedJournals: 1 } });
    expect(balancesMinusLines(file)).toEqual([]);
  });
});
