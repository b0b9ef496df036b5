import { writeFileSync } from 'node:fs';
import path from 'node:path';
import JSZip from 'jszip';
import { describeIssue } from '@margin-lens/core';
import {
  type PackageFiles,
  bringIn,
  newDatabase,
  newFolder,
  query,
  tinyFiles,
  workspaceOf,
} from '../../../test/tiny-package';
import { FINDINGS_SHOWN } from './import-package';
import type { ImportOutcome } from './import-request';

const journals = () => String(tinyFiles()['journals.csv']);

const codesOf = (outcome: ImportOutcome): string[] =>
  outcome.state === 'cancelled' ? ['cancelled'] : outcome.findings.shown.map(({ code }) => code);

/** Everything that a delivery could change, as text. */
const contents = (file: string): string =>
  JSON.stringify(
    [
      'journal',
      'journal_line',
      'balance',
      'figure',
      'account',
      'entity',
      'document',
      'import_run',
      'workspace_revision',
    ].map((table) => query(file, `select * from ${table}`)),
  );

/** Balances must be the sums of the lines that they stand for. */
const balancesMinusLines = (file: string) =>
  query(
    file,
    `select entity, account, period, combination, basis, entry_kind, debit, credit, quantity from balance where version = 0
     except select l.entity, l.account, l.period, l.combination, l.basis, j.kind, sum(l.debit), sum(l.credit), sum(l.quantity)
     from journal_line l join journal j on j.id = l.journal group by 1, 2, 3, 4, 5, 6`,
  );

describe('importPackage', () => {
  it('joins journals whose lines stand far apart, however few are remembered', async () => {
    const numbered = (file: string) =>
      query(
        file,
        `select j.number, l.line, l.account, l.debit from journal j join journal_line l on l.journal = j.id order by 1, 2`,
      );
    const [file, other] = [await newDatabase(), await newDatabase()];
    const outcome = await bringIn(file, tinyFiles(), undefined, { journalsHeld: 1 });
    const counts = (await bringIn(other, tinyFiles())) as Extract<ImportOutcome, { state: 'done' }>;
    expect(outcome).toMatchObject({ state: 'done', counts: counts.counts });
    expect(numbered(file)).toEqual(numbered(other));
    expect(balancesMinusLines(file)).toEqual([]);
  });

  it('brings in journals whose lines are scattered, with opening and adjustment journals, statistics and a plan', async () => {
    const file = await newDatabase();
    const outcome = await bringIn(file, tinyFiles());
    expect(outcome).toMatchObject({ state: 'done', counts: { journals: 5, lines: 9, figures: 1 } });
    expect(codesOf(outcome)).toEqual([]);
    expect(query(file, 'select count(*) as n from balance')).toEqual([{ n: 10 }]);
    expect(balancesMinusLines(file)).toEqual([]);
    expect(query(file, 'select amount from figure')).toEqual([{ amount: -90000 }]);
  });

  it('keeps the text of quoted fields and the line where they stood', async () => {
    const file = await workspaceOf();
    expect(
      query(file, `select description, source_line as line from journal_line where description like '%paid%'`),
    ).toEqual([{ description: 'Rent, "paid"', line: 7 }]);
  });

  it('adds nothing when the same files come again', async () => {
    const file = await workspaceOf();
    const balances = query(file, 'select * from balance');
    const again = await bringIn(file, tinyFiles());
    expect(again).toMatchObject({
      state: 'done',
      counts: { journals: 0, lines: 0, unchangedJournals: 5, figures: 0, unchangedFigures: 1 },
    });
    expect(query(file, 'select * from balance')).toEqual(balances);
  });

  it('adds the new journals of a later delivery to those that are there', async () => {
    const file = await workspaceOf();
    const later = `${journals()}ONE,J9,,1,2026-03-31,,1000,50.00,,,More,\nONE,J9,,2,2026-03-31,,4000,,50.00,,More,\n`;
    expect(await bringIn(file, tinyFiles({ 'journals.csv': later }))).toMatchObject({
      state: 'done',
      counts: { journals: 1, lines: 2, unchangedJournals: 5 },
    });
    expect(balancesMinusLines(file)).toEqual([]);
  });

  it('closes changed master data and figures and begins them anew', async () => {
    const file = await workspaceOf();
    const accounts = String(tinyFiles()['accounts.csv']).replace('Rent,expense', 'Rent and leases,expense');
    const figures = String(tinyFiles()['figures.csv']).replace('900.00', '950.00');
    const outcome = await bringIn(file, tinyFiles({ 'accounts.csv': accounts, 'figures.csv': figures }));
    expect(outcome).toMatchObject({
      state: 'done',
      counts: { changedFigures: 1, masters: { accounts: { changed: 1, unchanged: 4 } } },
    });
    expect(query(file, `select name, since, until from account where number = '5000' order by row_id`)).toEqual([
      { name: 'Rent', since: 1, until: 2 },
      { name: 'Rent and leases', since: 2, until: null },
    ]);
    expect(query(file, 'select sum(debit - credit) as plan from balance where version <> 0')).toEqual([
      { plan: -95000 },
    ]);
  });

  it('reads a zip file with a folder around everything, a byte order mark and CRLF', async () => {
    const zip = new JSZip();
    for (const [name, body] of Object.entries(tinyFiles())) zip.file(`delivery/${name}`, body);
    zip.file('delivery/accounts.csv', `\ufeff${String(tinyFiles()['accounts.csv']).replaceAll('\n', '\r\n')}`);
    const location = path.join(newFolder(), 'delivery.zip');
    writeFileSync(location, await zip.generateAsync({ type: 'nodebuffer' }));
    const outcome = await bringIn(await newDatabase(), location);
    expect(codesOf(outcome)).toEqual([]);
    expect(outcome).toMatchObject({ state: 'done', counts: { journals: 5 } });
  });

  it('proposes covered statements when the delivery has none', async () => {
    const file = await workspaceOf();
    expect(query(file, 'select kind, id from document order by row_id')).toEqual([
      { kind: 'workspace', id: 'workspace' },
      { kind: 'column_layout', id: 'month_and_year_to_date' },
      { kind: 'column_layout', id: 'twelve_months' },
      { kind: 'column_layout', id: 'four_quarters' },
      { kind: 'column_layout', id: 'month_ends' },
      { kind: 'column_layout', id: 'against_plan' },
      { kind: 'column_layout', id: 'to_date_and_full_year' },
      { kind: 'column_layout', id: 'flexible_budget' },
      { kind: 'column_layout', id: 'constant_currency' },
      { kind: 'column_layout', id: 'entities_of_group' },
      { kind: 'column_layout', id: 'group_worksheet' },
      { kind: 'column_layout', id: 'movements' },
      { kind: 'column_layout', id: 'months_against_plan' },
      { kind: 'column_layout', id: 'month_against_before' },
      { kind: 'column_layout', id: 'rolling_twelve' },
      { kind: 'column_layout', id: 'accrual_and_cash' },
      { kind: 'row_layout', id: 'income_by_heading' },
      { kind: 'statement', id: 'income_statement' },
      { kind: 'row_layout', id: 'balance_sheet_by_heading' },
      { kind: 'statement', id: 'balance_sheet' },
      { kind: 'row_layout', id: 'cash_flow_indirect' },
      { kind: 'statement', id: 'cash_flow' },
    ]);
  });

  it('leaves everything as it was when it is cancelled', async () => {
    const file = await newDatabase();
    const before = contents(file);
    expect(await bringIn(file, tinyFiles(), () => true)).toEqual({ state: 'cancelled' });
    expect(contents(file)).toBe(before);
  });

  it('shows a thousand findings and counts the rest by code', async () => {
    const bad = Array.from({ length: 1500 }, (_, i) => `ONE,B${i},,1,2026-01-31,,7777,1.00,,,x,`).join('\n');
    const outcome = await bringIn(await newDatabase(), tinyFiles({ 'journals.csv': `${journals()}${bad}\n` }));
    if (outcome.state !== 'refused') throw new Error(outcome.state);
    expect(outcome.findings.shown).toHaveLength(FINDINGS_SHOWN);
    expect(new Map(outcome.findings.countByCode).get('CORE_REFERENCE_UNKNOWN')).toBe(1500);
  });
});

describe('importPackage refuses, and leaves the books as they were', () => {
  const line = (text: string) => ({ 'journals.csv': `${journals()}${text}\n` });
  const eliminations = (credit: string) => ({
    'eliminations.csv': `group,journal,kind,line,period,entity,partner,account,debit,credit,rule,reason\nALL,E1,,1,FY2026-P01,ONE,TWO,1000,5.00,,x,x\nALL,E1,,2,FY2026-P01,TWO,ONE,1000,,${credit},x,x\n`,
  });
  const without = (name: string): PackageFiles => {
    const { [name]: _, ...rest } = tinyFiles();
    return rest;
  };

  it.each<[string, PackageFiles, string, number | undefined]>([
    ['CORE_JOURNAL_UNBALANCED', line('ONE,U1,,1,2026-03-31,,1000,50.00,,,x,'), 'journals.csv', 11],
    ['CORE_JOURNAL_LINE_TWICE', line('ONE,J1,,2,2026-01-31,,4000,,0.00,,x,'), 'journals.csv', 11],
    ['CORE_JOURNAL_KIND_MIXED', line('ONE,J1,opening,3,2026-01-31,,4000,,0.00,,x,'), 'journals.csv', 11],
    ['CORE_TABLE_ROW_WIDTH', line('ONE,J1'), 'journals.csv', 11],
    ['CORE_TABLE_QUOTES', line('ONE,Q1,,1,2026-03-31,,1000,50.00,,,"never closed,'), 'journals.csv', 11],
    [
      'CORE_TABLE_ENCODING',
      { 'journals.csv': Buffer.concat([Buffer.from(journals()), Buffer.from([0xff, 0xfe, 0x0a])]) },
      'journals.csv',
      undefined,
    ],
    ['CORE_TABLE_EMPTY', { 'journals.csv': '' }, 'journals.csv', undefined],
    ['CORE_TABLE_COLUMN_MISSING', { 'entities.csv': 'code,name,currency\nONE,One,EUR\n' }, 'entities.csv', 1],
    ['CORE_PACKAGE_FILE_MISSING', without('accounts.csv'), 'accounts.csv', undefined],
    ['CORE_PACKAGE_JSON_INVALID', { 'workspace.json': '{ "name": 1 }' }, 'workspace.json', undefined],
    ['CORE_DOCUMENT_INVALID', { 'layouts/x.json': '{ "kind": "row_layout" }' }, 'layouts/x.json', undefined],
    ['CORE_ELIMINATION_UNBALANCED', eliminations('4.00'), 'eliminations.csv', undefined],
    [
      'CORE_FIGURE_TWICE',
      { 'figures.csv': `${String(tinyFiles()['figures.csv'])}PLAN,ONE,4000,FY2026-P01,1.00,\n` },
      'figures.csv',
      3,
    ],
  ])('%s', async (code, change, place, lineNumber) => {
    const file = await workspaceOf(
      tinyFiles({
        'journals.csv': 'entity,journal,line,date,account,debit,credit\n',
        'figures.csv': 'version,entity,account,period,amount\n',
      }),
    );
    const before = contents(file);
    const isWhole = Object.keys(change).length > 2;
    const outcome = await bringIn(file, isWhole ? change : tinyFiles(change));
    if (outcome.state !== 'refused') throw new Error(outcome.state);
    const found = outcome.findings.shown.find((issue) => issue.code === code);
    expect(found?.place?.file).toBe(place);
    if (lineNumber !== undefined) expect(found?.place?.line).toBe(lineNumber);
    expect(describeIssue(found!).message).not.toMatch(/[{}]/);
    expect(contents(file)).toBe(before);
  });

  it.each([
    ['another kind', 'ONE,J1,closing,3,2026-01-31,,1000,0.00,,,More,', 'CORE_JOURNAL_KIND_MIXED'],
    ['a line that it has', 'ONE,J1,,1,2026-01-31,,1000,0.00,,,More,', 'CORE_JOURNAL_LINE_TWICE'],
    ['an amount that nothing balances', 'ONE,J1,,3,2026-01-31,,1000,1.00,,,More,', 'CORE_JOURNAL_UNBALANCED'],
  ])('a journal that goes on far below with %s, however few are remembered', async (_, line, code) => {
    for (const journalsHeld of [1, 1000]) {
      const file = await newDatabase();
      const before = contents(file);
      const files = tinyFiles({ 'journals.csv': `${journals()}${line}\n` });
      expect(codesOf(await bringIn(file, files, undefined, { journalsHeld }))).toEqual([code]);
      expect(contents(file)).toBe(before);
    }
  });

  it('a known journal with other content, and says what differs', async () => {
    const file = await workspaceOf();
    const before = contents(file);
    const outcome = await bringIn(file, tinyFiles({ 'journals.csv': journals().replaceAll('300.00', '310.00') }));
    expect(codesOf(outcome)).toEqual(['CORE_JOURNAL_CHANGED']);
    expect(contents(file)).toBe(before);
  });

  it('a known journal with a line less', async () => {
    const file = await workspaceOf(
      tinyFiles({ 'journals.csv': `${journals()}ONE,J2,,3,2026-02-10,,1000,0.00,,,Nothing,\n` }),
    );
    expect(codesOf(await bringIn(file, tinyFiles()))).toEqual(['CORE_JOURNAL_CHANGED']);
  });

  it('an entity that changes its currency once it has postings', async () => {
    const file = await workspaceOf();
    const entities = String(tinyFiles()['entities.csv']).replace('One,EUR', 'One,USD');
    expect(codesOf(await bringIn(file, tinyFiles({ 'entities.csv': entities })))).toContain(
      'CORE_ENTITY_CURRENCY_CHANGED',
    );
  });

  it('nothing for a file that it does not know, but notices it', async () => {
    const outcome = await bringIn(await newDatabase(), tinyFiles({ 'notes.txt': 'hello' }));
    expect(outcome.state).toBe('done');
    expect(codesOf(outcome)).toEqual(['CORE_PACKAGE_FILE_UNKNOWN']);
  });
});
