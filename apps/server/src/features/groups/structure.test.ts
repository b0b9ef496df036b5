import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import type { StructureView } from '@margin-lens/contract';
import { bringIn, newDatabase, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

const CASE = path.join(__dirname, '../../../test/reference/case04/j_ownership');
const table = (file: string) =>
  Papa.parse<Record<string, string>>(readFileSync(path.join(CASE, file), 'utf8').trim(), { header: true }).data;
const percent = (share: string) => String(Math.round(Number(share) * 1e6) / 1e4);

/** The entities of a case as a package, under the head of the group. */
function packageOf(shares: readonly Record<string, string>[]) {
  const codes = [...new Set(shares.flatMap(({ owner, owned }) => [owner!, owned!]))];
  const rows = shares.map(({ owner, owned, share }) => `${owner},${owned},2026-01-01,${percent(share!)},full`);
  return tinyFiles({
    'entities.csv': [
      'code,name,currency,calendar',
      'ONE,One,EUR,cal',
      ...codes.map((code) => `${code},${code},EUR,cal`),
      '',
    ].join('\n'),
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,cal,VEL,\n',
    'ownership.csv': ['investor,investee,from,percent,method', ...rows, ''].join('\n'),
  });
}

async function structureOf(databaseFile: string, url = '/api/v1/groups/ALL/structure?as_at=2026-06') {
  const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  const reply = await app.inject(url);
  await app.close();
  return reply;
}

describe('the structure of a group', () => {
  const inputs = table('input/ownership.csv');
  const expected = table('expected/effective.csv');
  const cases = [...new Set(inputs.map((row) => row['case']!))];

  // reference case 4, j: effective interest along paths, control by the votes of controlled holders (definitions 33 and 36)
  it.each(cases.filter((name) => !name.startsWith('cross')))(
    'has the effective shares and votes of the case %s',
    async (name) => {
      const file = await workspaceOf(packageOf(inputs.filter((row) => row['case'] === name)));
      const { entities } = (await structureOf(file)).json<StructureView>();
      for (const row of expected.filter((each) => each['case'] === name)) {
        const entity = entities.find(({ code }) => code === row['entity'])!;
        expect(entity.effective).toBeCloseTo(100 * Number(row['effective_interest']), 9);
        expect(entity.others).toBeCloseTo(100 * Number(row['nci_effective']), 9);
        expect(entity.votes).toBeCloseTo(100 * Number(row['voting_share_held_by_controlled_entities']), 9);
        expect([entity.method, entity.question]).toEqual([row['default_method'], null]);
      }
      expect(entities).toHaveLength(1 + expected.filter((each) => each['case'] === name).length);
    },
  );

  it('refuses the case in which entities own each other', async () => {
    const files = packageOf(inputs.filter((row) => row['case'] === 'cross_holding_not_supported'));
    const outcome = await bringIn(await newDatabase(), files);
    if (outcome.state !== 'refused') throw new Error(`it is ${outcome.state}`);
    expect(outcome.findings.shown.map(({ code }) => code)).toContain('CORE_OWNERSHIP_CIRCULAR');
  });

  it('says where votes question what is recorded, and whose group it is', async () => {
    const file = await workspaceOf(
      tinyFiles({
        'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,cal,ONE,\n',
        'ownership.csv':
          'investor,investee,from,percent,method\nONE,TWO,2026-03-01,45,full\nONE,TWO,2026-09-01,70,equity\n',
      }),
    );
    const url = (asAt: string) => `/api/v1/groups/ALL/structure?as_at=${asAt}`;
    const [before, early, late] = await Promise.all(
      ['2026-02', '2026-03', '2026-09'].map(async (asAt) => (await structureOf(file, url(asAt))).json<StructureView>()),
    );
    expect(before!.entities.map(({ code, method }) => [code, method])).toEqual([['ONE', 'top']]);
    expect(early!.entities[1]).toMatchObject({ code: 'TWO', method: 'full', holders: [{ code: 'ONE', percent: 45 }] });
    expect(early!.entities[1]!.question).toContain('with 45 % of the votes');
    expect(late).toMatchObject({ day: '2026-09-30', hidden: 0 });
    expect(late!.entities[1]!.question).toContain('has 70 % of the votes');
    expect((await structureOf(file, '/api/v1/groups/NONE/structure?as_at=2026-03')).statusCode).toBe(404);
    expect((await structureOf(file, url('2031-03'))).statusCode).toBe(400);
  });
});
