import type {
  AdoptionView,
  ErrorReply,
  FiguresView,
  NewVersion,
  SavedFigures,
  StatementView,
  TraceView,
  VersionChanges,
} from '@margin-lens/contract';
import { askingVersions, NONE, RED, cell, line } from '../../../test/asking-versions';
import { servedApp } from '../../../test/served-app';
import { bringIn, tinyFiles } from '../../../test/tiny-package';
import { CONTROLLER, unsound } from '../../../test/opened-store';
import { Store } from '../../store/store';
import { Person } from '../../store/tables';
import type { Viewer } from '../../base/viewer';
import { Workspace } from '../workspace/workspace';
import { FiguresService } from './figures-service';
import { VersionsService } from './versions-service';

const { served, ask } = servedApp();
const { version, make, figures, save, move, sales } = askingVersions(ask);

describe('a forecast', () => {
  it('shows actuals up to its cut-over and its own figures after it, and opens with the actual balances', async () => {
    const { code } = (await make({})).body;
    await save(code, [cell('4000', 3, 0, -70_000)]);
    const [view, actual] = [await figures(code), await figures('actual')];
    expect(view.actual.slice(0, 4)).toEqual([true, true, false, false]);
    for (const { account, combination, figures: held } of actual.lines)
      expect(line(view, account, combination)?.slice(0, 2) ?? [0, 0]).toEqual(held.slice(0, 2));
    expect(view.openings).toEqual(actual.openings);
    expect(await sales(code, 'FY2026-P03')).toBe(70_000);
    expect(await sales(code, 'FY2026-P01')).toBe(await sales('actual', 'FY2026-P01'));
  });

  it('needs a last actual month inside its range', async () => {
    expect((await make({ cutOver: '' })).body).toMatchObject({ code: 'SRV_VERSION_RANGE' });
    expect((await make({ to: 'FY2031-P01' })).body).toMatchObject({
      message: expect.stringContaining('no calendar has a period FY2031-P01') as string,
    });
  });
});

describe('actual to date plus forecast', () => {
  const COLUMNS = 'to_date_and_full_year';
  const statement = async (asAt: string) => {
    const query = new URLSearchParams({ scope: 'ONE', as_at: asAt, columns: COLUMNS });
    const { columns, rows } = (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body;
    const amount = (id: string) => rows[0]!.cells[columns.findIndex((column) => column.id === id)]!.amount;
    return {
      note: columns.find(({ id }) => id === 'year')!.note,
      label: columns.find(({ id }) => id === 'year')!.label,
      amount,
    };
  };

  // by hand: actual sales are 1,000.00 in January and nothing in February (see the tiny package)
  it('takes its cut-over from the as-at month, and the version’s own where that is later, which the head says', async () => {
    const { code } = (await make({ cutOver: 'FY2026-P01' })).body;
    await save(code, [cell('4000', 2, 0, -33_000), cell('4000', 3, 0, -70_000)]);
    const january = await statement('FY2026-P01');
    expect([january.amount('ytd'), january.amount('rest'), january.amount('year')]).toEqual([
      100_000, 103_000, 203_000,
    ]);
    expect([january.label, january.note]).toEqual(['Outlook', 'actual to Jan, 3 of 12 months']);
    // as at February, its actual figure (none) stands in place of the forecast's
    const february = await statement('FY2026-P02');
    expect([february.amount('ytd'), february.amount('rest'), february.amount('year')]).toEqual([
      100_000, 70_000, 170_000,
    ]);
    const { code: late } = (await make({ name: 'Later', cutOver: 'FY2026-P02' })).body;
    await save(late, [cell('4000', 3, 0, -70_000)]);
    expect(await statement('FY2026-P01')).toMatchObject({
      label: 'Later',
      note: 'actual to Feb, its cut-over, 3 of 12 months',
    });
  });

  it('is what a plan is held against that is looked at, and no plan is held against itself', async () => {
    const compared = async (more: Record<string, string>) => {
      const query = new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P01', columns: 'against_plan', ...more });
      return (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body.compared?.code;
    };
    expect([await compared({}), await compared({ version: 'PLAN' })]).toEqual(['PLAN', undefined]);
    const { code } = (await make({ name: 'Outlook' })).body;
    expect([await compared({}), await compared({ version: 'PLAN' }), await compared({ version: code })]).toEqual([
      'PLAN',
      code,
      'PLAN',
    ]);
  });

  it('stands on the plan while there is no forecast', async () => {
    expect((await statement('FY2026-P01')).label).toBe('Plan');
  });

  it('traces to journals before the cut-over and to figures after it, also those of a parent', async () => {
    const { code } = (await make({ cutOver: 'FY2026-P01' })).body;
    await save(code, [cell('4000', 3, 0, -70_000), cell('4000', 3, 0, -500, RED)]);
    const { code: branch } = (await make({ name: 'Branch', kind: 'branch', parent: code })).body;
    await save(branch, [cell('4000', 3, -500, -900, RED)]);
    const trace = async (month: string) => {
      const query = new URLSearchParams({ scope: 'ONE', as_at: month, version: branch, columns: 'twelve_months' });
      const { rows } = (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body;
      const step = async (address: string) =>
        (
          await ask<TraceView>(
            'GET',
            `/statements/income_statement/trace?${query}&address=${encodeURIComponent(address)}`,
          )
        ).body;
      let level = await step(`cell~${rows[0]!.id}~months.${month.slice(-3).toLowerCase()}`);
      while (!level.postings) level = await step(level.terms[0]!.address);
      return level.postings;
    };
    const figures = await trace('FY2026-P03');
    expect(figures.lines.map(({ journal, description, amount }) => [journal, description, amount])).toEqual([
      ['Branch', 'without dimensions', 70_000],
      ['Branch', 'team red', 900],
    ]);
    expect(figures.total).toBe(70_900);
    expect((await trace('FY2026-P01')).lines[0]!.date).toBe('2026-01-31');
  });
});

describe('the balances that a plan opens with', () => {
  /** What an account opens with, under whatever values. */
  const opening = ({ openings }: FiguresView, number: string) =>
    openings.filter(({ account }) => account === number).reduce((sum, { figure }) => sum + figure, 0);

  it('are the actual ones before its first month, or those of a version at a month', async () => {
    const { code: forecast } = (await make({ cutOver: 'FY2026-P01' })).body;
    await save(forecast, [cell('1000', 2, 0, 25_000), cell('4000', 2, 0, -25_000)]);
    const range = { kind: 'plan' as const, cutOver: '', from: 'FY2026-P03' };
    const usual = (await make({ ...range, name: 'Usual' })).body.code;
    const named = (await make({ ...range, name: 'Named', opening: { version: forecast, period: 'FY2026-P02' } })).body
      .code;
    const query = (code: string) =>
      ask<FiguresView>('GET', `/figures?version=${code}&scope=ONE&from=FY2026-P03&to=FY2026-P12`);
    const cash = async (code: string) => opening((await query(code)).body, '1000');
    expect(await cash(usual)).toBe(await cash('actual'));
    // what was posted with a value opens under it
    const actual = (await query('actual')).body.openings.filter(({ account }) => account === '1000');
    expect(new Set(actual.map(({ combination }) => combination)).size).toBe(actual.length);
    expect(actual.length).toBeGreaterThan(1);
    // the forecast has January's actual cash and 250 more in February, in place of what happened then
    const january = (await figures('actual')).lines
      .filter(({ account }) => account === '1000')
      .reduce((sum, each) => sum + each.figures[0]!, 0);
    expect(await cash(named)).toBe(opening(await figures('actual'), '1000') + january + 25_000);
    expect(await version(named)).toMatchObject({ opening: { version: forecast, period: 'FY2026-P02' } });
  });

  it('are refused where they do not exist, are not before its first month, or stand on the plan itself', async () => {
    const refused = async (opening: NewVersion['opening']) =>
      (await make({ kind: 'plan', cutOver: '', from: 'FY2026-P03', name: 'X', opening })).body;
    expect(await refused({ version: 'NONE', period: 'FY2026-P01' })).toMatchObject({ code: 'SRV_VERSION_UNKNOWN' });
    expect(await refused({ version: 'actual', period: 'FY2026-P03' })).toMatchObject({ code: 'SRV_VERSION_RANGE' });
    const { code: first } = (await make({ kind: 'plan', cutOver: '', from: 'FY2026-P04', name: 'First' })).body;
    const { code: second } = (
      await make({
        kind: 'plan',
        cutOver: '',
        from: 'FY2026-P03',
        name: 'Second',
        opening: { version: first, period: 'FY2026-P02' },
      })
    ).body;
    const circle = { name: 'First', owner: '', editors: [], opening: { version: second, period: 'FY2026-P03' } };
    expect((await ask('PUT', `/versions/${first}`, circle)).body).toMatchObject({
      message: expect.stringContaining('stands on it') as string,
    });
    expect((await ask('DELETE', `/versions/${first}`)).body).toMatchObject({
      message: expect.stringContaining('opens with its balances') as string,
    });
  });
});

describe('a branch', () => {
  it('differs from its parent only where it has figures, also figures of 0, and is adopted as one change', async () => {
    await save('PLAN', [cell('5000', 1, 0, 40_000)]);
    const { code } = (await make({ name: 'Dear gas', kind: 'branch', parent: 'PLAN' })).body;
    expect(line(await figures(code), '5000')![0]).toBe(40_000);
    await save(code, [cell('5000', 1, 40_000, 0), cell('5000', 2, 0, 44_000)]);
    await ask('PUT', `/versions/${code}/figures`, {
      scope: 'TWO',
      how: 'typed',
      label: '',
      cells: [cell('5000', 1, 0, 9)],
    });
    await save('PLAN', [cell('4000', 3, 0, -7)]);
    const view = await figures(code);
    expect(line(view, '5000')!.slice(0, 2)).toEqual([0, 44_000]);
    expect(line(view, '4000')!.slice(0, 3)).toEqual([-90_000, 0, -7]);
    expect(line(await figures('PLAN'), '5000')!.slice(0, 2)).toEqual([40_000, 0]);
    // before it is: 400 of costs less and 440 more in One, 9 more in Two
    const { body } = await ask<AdoptionView>('GET', `/versions/${code}/adopt`);
    expect(body).toMatchObject({
      into: 'Plan',
      parts: [
        { scope: 'ONE', count: 2, profit: -4_000 },
        { count: 1, profit: -9 },
      ],
    });
    expect(body.parts[0]!.cells).toEqual([cell('5000', 2, 0, 44_000), cell('5000', 1, 40_000, 0)]);
    expect(line(await figures('PLAN'), '5000')!.slice(0, 2)).toEqual([40_000, 0]);
    await ask('POST', `/versions/${code}/adopt`);
    expect(line(await figures('PLAN'), '5000')!.slice(0, 2)).toEqual([0, 44_000]);
    const [change] = (await ask<VersionChanges>('GET', '/versions/PLAN/changes')).body.changes;
    expect(change).toMatchObject({ how: 'adopted', label: 'Dear gas', count: 3, scope: '*' });
    expect((await ask<SavedFigures>('POST', `/versions/PLAN/changes/${change!.revision}/take-back`)).body.state).toBe(
      'saved',
    );
    expect(line(await figures('PLAN'), '5000')!.slice(0, 2)).toEqual([40_000, 0]);
    expect(line(await figures('PLAN', 'TWO'), '5000')).toBeUndefined();
    expect((await ask('DELETE', '/versions/PLAN')).body).toMatchObject({ code: 'SRV_VERSION_IN_USE' });
    expect((await ask('DELETE', `/versions/${code}`)).status).toBe(204);
    expect(await version(code)).toBeUndefined();
  });
});

describe('a branch of a branch', () => {
  it('is adopted over what its parent has from further up, also where it clears that', async () => {
    await save('PLAN', [cell('5000', 1, 0, 40_000), cell('5000', 2, 0, 44_000)]);
    const { code: first } = (await make({ name: 'First', kind: 'branch', parent: 'PLAN' })).body;
    const { code: second } = (await make({ name: 'Second', kind: 'branch', parent: first })).body;
    await save(second, [cell('5000', 1, 40_000, 0), cell('5000', 2, 44_000, 45_000)]);
    const adopted = await ask<SavedFigures>('POST', `/versions/${second}/adopt`);
    expect([adopted.status, adopted.body.state]).toEqual([200, 'saved']);
    expect(line(await figures(first), '5000')!.slice(0, 2)).toEqual([0, 45_000]);
    expect(line(await figures('PLAN'), '5000')!.slice(0, 2)).toEqual([40_000, 44_000]);
  });
});

describe('states', () => {
  it('go in order, back only with a reason, and shut the figures', async () => {
    expect((await version('PLAN')).state).toBe('draft');
    expect((await move('PLAN', 'approved')).body.code).toBe('SRV_VERSION_MOVE');
    await move('PLAN', 'submitted');
    expect((await save('PLAN', [cell('4000', 2, 0, 1)])).body).toMatchObject({ code: 'SRV_VERSION_NOT_DRAFT' });
    expect((await move('PLAN', 'draft')).body.code).toBe('SRV_VERSION_MOVE');
    expect((await move('PLAN', 'draft', 'Rent is missing')).status).toBe(204);
    const { state, history } = await version('PLAN');
    expect([state, history[0]!.what]).toEqual(['draft', 'sent back to draft: Rent is missing']);
  });

  it('locked holds all that it reads: late postings and changes of the parent no longer move it', async () => {
    const { code } = (await make({})).body;
    await save(code, [cell('4000', 3, 0, -70_000)]);
    for (const to of ['submitted', 'approved', 'locked']) expect((await move(code, to)).status).toBe(204);
    const before = await figures(code);
    await bringIn(
      served.databaseFile,
      tinyFiles({
        'journals.csv':
          tinyFiles()['journals.csv'] +
          'ONE,J9,,1,2026-01-15,,1000,50.00,,,Late,\nONE,J9,,2,2026-01-15,,4000,,50.00,,Late,\n',
      }),
    );
    expect(line(await figures('actual'), '4000')![0]).toBe(-5000);
    expect((await figures(code)).lines).toEqual(before.lines);
    expect((await version(code)).frozenAt).not.toBeNull();
    expect((await move(code, 'draft', 'no')).body.code).toBe('SRV_VERSION_MOVE');

    const revised = (await ask<{ code: string }>('POST', `/versions/${code}/revise`)).body.code;
    expect(await version(revised)).toMatchObject({ name: 'Outlook, revised', state: 'draft', revises: code });
    expect(line(await figures(revised), '4000')!.slice(0, 3)).toEqual([-5000, 0, -70_000]);
  });
});

describe('a locked version', () => {
  it('keeps the rates that it was locked at', async () => {
    const rates = (closing: string) => ({
      'rates.csv': ['closing', 'average']
        .map((type) => `EUR,JPY,FY2026-P01,,${type},${closing}`)
        .reduce((all, row) => `${all}${row}\n`, 'base,quote,period,date,type,rate\n'),
    });
    await bringIn(served.databaseFile, tinyFiles(rates('160')));
    const { code } = (await make({})).body;
    await save(code, [cell('4000', 1, -5_000, -70_000)]);
    const inYen = async (shown: string) => {
      const layouts = {
        document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
        rowLayout: {
          ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
          rows: [
            { kind: 'accounts', id: 'a', label: 'Sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
          ],
        },
        columnLayout: {
          ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
          columns: [{ kind: 'figure', id: 'f', version: shown, span: 'period', measure: 'by_nature' }],
        },
        context: { scope: 'ONE', currency: 'JPY', as_at: '2026-01' },
      };
      return (await ask<StatementView>('POST', '/statements/preview', layouts)).body.rows[0]!.cells[0]!.amount;
    };
    const before = [await inYen('actual'), await inYen(code)];
    for (const to of ['submitted', 'approved', 'locked']) expect((await move(code, to)).status).toBe(204);
    await bringIn(served.databaseFile, tinyFiles(rates('200')));
    expect(await inYen('actual')).toBe((before[0]! * 200) / 160);
    expect(await inYen(code)).toBe(before[1]);
  });
});

describe('the figures of a group', () => {
  it('are those of its entities by account, to be looked at and taken as a sheet', async () => {
    await save('PLAN', [cell('4000', 1, -90_000, -95_000)]);
    const of = async (scope: string) =>
      (await ask<FiguresView>('GET', `/figures?version=PLAN&scope=${scope}&from=FY2026-P01&to=FY2026-P12`)).body;
    const [one, all] = [await of('ONE'), await of('ALL')];
    const sums = new Map<string, number[]>();
    for (const { account, figures: held } of one.lines)
      sums.set(
        account,
        held.map((figure, at) => figure + (sums.get(account)?.[at] ?? 0)),
      );
    expect(new Map(all.lines.map(({ account, figures: held }) => [account, held]))).toEqual(sums);
    expect([all.openings, all.untold]).toEqual([one.openings, null]);
    const reply = await served.app.inject('/api/v1/versions/PLAN/sheet?scope=ALL&format=csv');
    expect([reply.statusCode, reply.body]).toEqual([200, expect.stringContaining('4000,,Sales,950.00')]);
    const typed = { scope: 'ALL', how: 'typed', label: 'Sales', cells: [cell('4000', 1, -95_000, -99_000)] };
    const refused = await ask<ErrorReply>('PUT', '/versions/PLAN/figures', typed);
    expect([refused.status, refused.body.code]).toEqual([400, 'SRV_SCOPE_IS_GROUP']);
  });
});

describe('a draft that is deleted', () => {
  it('comes back as it was, with its figures, settings and balances; what is not gone does not', async () => {
    const { code } = (await make({ name: 'Plan B', kind: 'plan', cutOver: '', copyOf: 'PLAN' })).body;
    await save(code, [cell('4000', 1, -90_000, -95_000)]);
    const before = [await figures(code), await version(code)] as const;
    expect((await ask('DELETE', `/versions/${code}`)).status).toBe(204);
    expect(await version(code)).toBeUndefined();
    expect((await ask('POST', `/versions/${code}/bring-back`)).status).toBe(204);
    expect((await figures(code)).lines).toEqual(before[0].lines);
    expect(await version(code)).toMatchObject({ name: 'Plan B', owner: before[1].owner, from: before[1].from });
    expect(await unsound(served.databaseFile)).toEqual([]);
    expect((await ask('POST', `/versions/${code}/bring-back`)).status).toBe(404);
  });
});

describe('copies', () => {
  it('hold the same figures and go their own way', async () => {
    const { code } = (await make({ name: 'Plan B', kind: 'plan', cutOver: '', copyOf: 'PLAN' })).body;
    expect(code).toBe('PLAN_B');
    await save(code, [cell('4000', 1, -90_000, -95_000)]);
    expect([line(await figures(code), '4000')![0], line(await figures('PLAN'), '4000')![0]]).toEqual([
      -95_000, -90_000,
    ]);
    expect(await version(code)).toMatchObject({ owner: 'local', mayEdit: true, changes: 1, rank: 1 });
  });
});

describe('rights', () => {
  const INES = { id: 'ines', name: 'Ines' };
  const preparer: Viewer = { ...CONTROLLER, ...INES, rights: new Set(['read', 'plan'] as const) };
  let workspace: Workspace;
  beforeEach(async () => {
    await bringIn(
      served.databaseFile,
      tinyFiles({ 'dimensions.csv': 'dimension,value,name,parent\nteam,red,Red,\nsite,kiln,Kiln,\n' }),
    );
    const store = await Store.open(served.databaseFile);
    await store.aside(({ em }) => {
      em.create(Person, { ...INES, rights: ['read', 'plan'], entities: 'all', values: {} });
      return Promise.resolve();
    });
    workspace = new Workspace(store);
  });
  afterEach(() => workspace.close());

  it('let editors change the entities and values given to them, and nobody but the owner the settings', async () => {
    await make({ name: 'Plan B', kind: 'plan', cutOver: '' });
    const editors = [{ person: 'ines', entities: ['ONE'], values: { site: ['kiln'] } }];
    const settings = { name: 'Plan B', owner: 'local', editors, opening: null };
    expect((await ask('PUT', '/versions/PLAN_B', settings)).status).toBe(204);
    const [own, all] = [new FiguresService(workspace), new VersionsService(workspace)];
    const write = (scope: string, combination: string) =>
      own.save(preparer, 'PLAN_B', { scope, how: 'typed', label: '', cells: [cell('5000', 1, 0, 100, combination)] });
    expect((await write('ONE', '\u001f\u001fsite=kiln')).state).toBe('saved');
    await expect(write('ONE', NONE)).rejects.toThrow('figures without a site');
    await expect(write('TWO', '\u001f\u001fsite=kiln')).rejects.toThrow('the figures of TWO');
    await expect(
      all.setUp(preparer, 'PLAN_B', { name: 'x', owner: 'ines', editors: [], opening: null }),
    ).rejects.toThrow('Ines may not change');
    await expect(all.move(preparer, 'PLAN_B', { to: 'submitted', reason: '' })).rejects.toThrow('may not change');
    const other: Viewer = { ...preparer, id: 'otto', name: 'Otto' };
    await expect(
      own.save(other, 'PLAN_B', { scope: 'ONE', how: 'typed', label: '', cells: [cell('5000', 1, 0, 1)] }),
    ).rejects.toThrow('the figures');
  });

  it('are those of people that there are', async () => {
    const settings = { name: 'Plan', owner: 'nobody', editors: [], opening: null };
    expect((await ask<{ code: string }>('PUT', '/versions/PLAN', settings)).body.code).toBe('SRV_PERSON_UNKNOWN');
  });

  it('hold a person to their own values of a dimension, whoever owns the version', async () => {
    const held: Viewer = { ...preparer, values: new Map([['site', new Set(['kiln'])]]) };
    const write = (combination: string) =>
      new FiguresService(workspace).save(held, 'PLAN', {
        ...{ scope: 'ONE', how: 'typed', label: '' },
        cells: [cell('5000', 1, 0, 100, combination)],
      });
    await expect(write(NONE)).rejects.toThrow('figures without a site');
    expect((await write('\u001f\u001fsite=kiln')).state).toBe('saved');
  });
});
