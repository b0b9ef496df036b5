import fc from 'fast-check';
import type { PersonView } from '@margin-lens/contract';
import { addPeople } from '../../../test/opened-store';
import { bringIn, newDatabase, newFolder, query, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { someOf } from '../../../test/runs';
import { buildApp } from '../../app';
import { writePackage } from './write-package';

/** All that a workspace says now, by names instead of ids. */
const contents = (file: string): string[] =>
  [
    `select e.code, j.fiscal_year, j.number, j.kind, l.line, l.date, p.period, a.number, l.basis, l.debit, l.credit,
       l.currency, l.currency_amount, l.quantity, c.parts, l.description, l.document
     from journal_line l join journal j on j.id = l.journal and j.until is null join entity e on e.id = l.entity
     join fiscal_period p on p.id = l.period join account a on a.id = l.account join combination c on c.id = l.combination
     order by 1, 2, 3, 5`,
    `select e.code, p.fiscal_year, p.period, a.number, c.parts, b.basis, b.entry_kind, b.version, b.debit, b.credit, b.quantity
     from balance b join entity e on e.id = b.entity join fiscal_period p on p.id = b.period
     join account a on a.id = b.account join combination c on c.id = b.combination order by 1, 2, 3, 4, 5, 6, 7, 8`,
    'select kind, id, body from document where until is null order by 1, 2',
    'select number, name, nature, category, subcategory, role from account where until is null order by 1',
    'select dimension, value, name, parent from dimension_value where until is null order by 1, 2',
  ].map((sql) => JSON.stringify(query(file, sql), null, 1));

async function roundTrip(file: string): Promise<string> {
  const folder = newFolder();
  await writePackage(file, folder);
  const copy = await newDatabase();
  const outcome = await bringIn(copy, folder);
  if (outcome.state !== 'done') throw new Error(JSON.stringify(outcome, null, 1));
  return copy;
}

/** Texts as people write them, with all that CSV and spreadsheets trip over. */
const text = fc.oneof(
  fc.string({ maxLength: 12 }).filter((s) => !/[\u0000-\u001f\u007f]/.test(s)), // eslint-disable-line no-control-regex
  fc.constantFrom(
    '',
    'a "quoted" word',
    'one, two',
    'two\nlines',
    '=1+1',
    '-2',
    "'x",
    ' edge ',
    'Öfen für Köln',
    '日本',
  ),
);
const cents = fc.integer({ min: 1, max: 9_000_000_000 });

interface Posted {
  kind: '' | 'opening';
  amounts: number[];
  texts: string[];
  team: '' | 'red';
  partner: '' | 'TWO';
  day: number;
  isAudit: boolean;
}
const journal: fc.Arbitrary<Posted> = fc.record({
  kind: fc.constantFrom('' as const, '' as const, 'opening' as const),
  amounts: fc.array(cents, { minLength: 1, maxLength: 5 }),
  texts: fc.array(text, { minLength: 6, maxLength: 6 }),
  team: fc.constantFrom('' as const, 'red' as const),
  partner: fc.constantFrom('' as const, 'TWO' as const),
  day: fc.integer({ min: 1, max: 28 }),
  isAudit: fc.boolean(),
});

const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;
const money = (minor: number) => `${Math.floor(minor / 100)}.${String(minor % 100).padStart(2, '0')}`;

/** A balanced journal: debits of its amounts, one credit of their sum. */
function linesOf({ kind, amounts, texts, team, partner, day, isAudit }: Posted, index: number): string[] {
  const date = isAudit ? '2026-12-31' : `2026-0${1 + (index % 9)}-${String(day).padStart(2, '0')}`;
  const period = isAudit ? 'FY2026-P13' : '';
  const total = amounts.reduce((a, b) => a + b, 0);
  const head = (line: number) => ['ONE', `R${index}`, kind, String(line), date, period];
  const debits = amounts.map((amount, i) => [
    ...head(i + 1),
    i % 2 ? '5000' : '1000',
    money(amount),
    '',
    '',
    texts[i]!,
    team,
    partner,
  ]);
  const credit = [...head(amounts.length + 1), '4000', '', money(total), '', texts[5]!, team, ''];
  return [...debits, credit].map((cells) => cells.map(quoted).join(','));
}

describe('the workspace as a ledger package', () => {
  it('comes back equal from the package of a small workspace', async () => {
    const file = await workspaceOf();
    expect(contents(await roundTrip(file))).toEqual(contents(file));
  });

  it('comes back equal whatever was posted (property)', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(journal, { minLength: 1, maxLength: 12 }), async (journals) => {
        const file = await newDatabase();
        const head = 'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team,partner';
        const rows = journals.flatMap(linesOf);
        const outcome = await bringIn(file, tinyFiles({ 'journals.csv': [head, ...rows, ''].join('\n') }));
        expect(outcome.state).toBe('done');
        expect(contents(await roundTrip(file))).toEqual(contents(file));
      }),
      { numRuns: someOf(12) },
    );
  });

  it('carries what was said about findings of the books check', async () => {
    const file = await workspaceOf();
    const app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
    await app.inject({
      method: 'POST',
      url: '/api/v1/books-check/seen',
      payload: { scope: 'ONE', key: 'suspense|1690', reason: 'Cleared in March' },
    });
    await app.close();
    const seen = (of: string) => query(of, "select id, body from document where kind = 'seen' and until is null");
    expect(seen(file)).toHaveLength(1);
    expect(seen(await roundTrip(file))).toEqual(seen(file));
  });

  it('is not written over anything', async () => {
    const file = await workspaceOf();
    const folder = newFolder();
    await writePackage(file, folder);
    await expect(writePackage(file, folder)).rejects.toThrow('is not empty');
  });
});

describe('what people write beside the books', () => {
  it('travels with the package: remarks with who wrote them, owners and editors of versions', async () => {
    const file = await workspaceOf();
    await addPeople(file, 'Ines', 'Otto');
    const app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
    const remark = {
      scope: 'ONE',
      period: 'FY2026-P02',
      statement: 'income_statement',
      row: 'rent',
      column: '',
      columns: '',
      text: 'Paid early',
      quotes: [],
      state: 'open',
      carries: '',
    };
    const settings = {
      name: 'Plan',
      owner: 'ines',
      editors: [{ person: 'otto', entities: ['ONE'], values: { team: ['red'] } }],
      opening: null,
    };
    await app.inject({ method: 'POST', url: '/api/v1/remarks', payload: remark });
    await app.inject({ method: 'PUT', url: '/api/v1/versions/PLAN', payload: settings });
    const later = {
      name: 'Later',
      kind: 'plan',
      from: 'FY2026-P03',
      to: 'FY2026-P12',
      cutOver: '',
      parent: '',
      copyOf: '',
      opening: { version: 'PLAN', period: 'FY2026-P02' },
    };
    await app.inject({ method: 'POST', url: '/api/v1/versions', payload: later });
    await app.close();

    const copy = await buildApp({ databaseFile: await roundTrip(file), webRoot: '/nonexistent' });
    const query = '/api/v1/remarks?scope=ONE&as_at=FY2026-P02&statement=income_statement';
    expect((await copy.inject(query)).json()).toMatchObject({
      remarks: [{ text: 'Paid early', author: 'Controller' }],
    });
    const people = (await copy.inject('/api/v1/people')).json<PersonView[]>();
    const idOf = (name: string) => people.find((person) => person.name === name)!.id;
    const versions = (await copy.inject('/api/v1/versions')).json<unknown[]>();
    const editors = settings.editors.map((editor) => ({ ...editor, person: idOf('Otto') }));
    expect(versions[0]).toMatchObject({ code: 'PLAN', owner: idOf('Ines'), editors });
    expect(versions[1]).toMatchObject({ name: 'Later', opening: later.opening });
    await copy.close();
  });
});
