import { createHash } from 'node:crypto';
import { RESOURCES } from '@margin-lens/core';
import {
  bringIn,
  newDatabase,
  newFolder,
  query,
  tinyFiles,
  workspaceOf,
  type PackageFiles,
} from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { writePackage } from '../export/write-package';

const INVOICE = Buffer.from('%PDF-1.4 an invented invoice \u00e9');
const digestOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

/** A package that has something in each table, by the columns of docs/formats.md. */
const FULL = tinyFiles({
  'entities.csv': [
    'code,name,currency,calendar,tax_rate,translation',
    'ONE,One,EUR,cal,25,',
    'TWO,Two,JPY,cal,30.5,temporal',
    '',
  ].join('\n'),
  'partners.csv':
    'code,name,kind,entity,group\nC1,Casa Verano,customer,,Verano\nS1,Clay works,supplier,,\nIC2,Two,other,TWO,\n',
  'groups.csv': 'code,name,currency,calendar,top_entity,parent_group,tiers\nALL,All,EUR,cal,ONE,,sequential\n',
  'ownership.csv': 'investor,investee,from,percent,method\nONE,TWO,2026-01-01,80,full\nONE,TWO,2026-07-01,60,full\n',
  'acquisitions.csv':
    'investor,investee,date,consideration,prior_interest_fair_value,nci_method,nci_fair_value,kind,item,account,expense_account,local_amount,life_months\nONE,TWO,2026-01-01,900.00,40.00,fair_value,200.00,fair_value,Brand,1000,5000,50.00,60\n',
  'disposals.csv': 'investor,investee,date,percent_sold,proceeds,kept_fair_value\nONE,TWO,2026-07-01,20,300.00,\n',
  'attributes.csv': 'dimension,value,attribute,text,from\nteam,red,manager,Ann,\nteam,red,manager,Ben,FY2026-P04\n',
  'impairments.csv': 'investor,investee,period,amount\nONE,TWO,FY2026-P12,15.00\n',
  'associate_results.csv': 'entity,period,profit,other_reserves,dividend\nTWO,FY2026-P03,1200,,300\n',
  'stock_held.csv':
    'holder,seller,period,amount,margin,direction,stock_account,cost_account\nONE,TWO,FY2026-P03,80.00,25,upstream,1000,5000\n',
  'asset_transfers.csv':
    'seller,buyer,period,account,proceeds,carrying_amount,life_months,gain_account,expense_account\nONE,TWO,FY2026-P03,1000,80.00,60.00,48,4000,5000\n',
  'asset_layers.csv':
    'entity,account,layer,date,local_amount,rate,life_months,first_period,accumulated_account,expense_account\nTWO,1000,2026,2026-01-31,5000,0.0061,120,FY2026-P02,1000,5000\n',
  'historical.csv':
    'entity,account,date,currency,local_amount,group_amount\nTWO,3000,2026-01-01,,-5000,-31.00\nTWO,3000,2026-01-01,USD,-5000,-34.00\n',
  'standing_rules.csv':
    'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance\nALL,trade,balances,both,1000..1999,"3000, 4000",5000,,5.00\n',
  'account_map.csv': 'entity,from,to\nTWO,1000..1099,1000\n',
  'value_map.csv': 'entity,dimension,from,to\nTWO,team,rot,red\n',
  'calendar_map.csv': 'entity,from,to\nTWO,FY2026-P01,FY2026-P01\n',
  'source_links.csv': 'entity,document_type,pattern\nONE,invoice,https://archive.example/{document}\n',
  'attachments.csv': `entity,fiscal_year,journal,document,file,name,sha256\nONE,2026,J1,INV-7,attachments/inv7.pdf,Invoice 7.pdf,${digestOf(INVOICE)}\n`,
  'attachments/inv7.pdf': INVOICE,
  'eliminations.csv':
    'group,journal,kind,line,period,entity,partner,account,debit,credit,rule,reason\nALL,E1,,1,FY2026-P03,ONE,TWO,4000,5.00,,,x\nALL,E1,,2,FY2026-P03,TWO,ONE,5000,,5.00,,x\n',
  'journals.csv': [
    'entity,journal,kind,line,date,account,debit,credit,partner,document,document_type,due,settles',
    'ONE,J1,,1,2026-01-31,1000,1000.00,,C1,INV-7,invoice,2026-02-28,',
    'ONE,J1,,2,2026-01-31,4000,,1000.00,,INV-7,invoice,,',
    'ONE,B1,,1,2026-02-20,1000,,400.00,C1,RC-1,receipt,,INV-7',
    'ONE,B1,,2,2026-02-20,1000,400.00,,,RC-1,receipt,,',
    '',
  ].join('\n'),
});

/** All rows that hold of the tables that the package brings, and of the lines. */
const contents = (file: string) => [
  ...RESOURCES.map(({ table, columns }) => {
    const names = columns.map(({ name }) => `\`${name}\``).join(', ');
    return { table, rows: query(file, `select ${names} from \`${table}\` where until is null order by ${names}`) };
  }),
  query(file, 'select sha256, hex(bytes) as bytes from attachment_file'),
  query(
    file,
    `select j.number, l.line, l.document, l.document_type, l.due, l.settles, c.parts from journal_line l
     join journal j on j.id = l.journal join combination c on c.id = l.combination order by 1, 2`,
  ),
];

describe('the tables that groups, partners and open items stand on', () => {
  it('come in, and come back equal from the package that goes out', async () => {
    const file = await workspaceOf(FULL);
    expect(query(file, 'select code, tax_rate, translation from entity where until is null')).toContainEqual({
      ...{ code: 'TWO', tax_rate: '30.5', translation: 'temporal' },
    });
    const folder = newFolder();
    await writePackage(file, folder);
    const copy = await newDatabase();
    expect(await bringIn(copy, folder)).toMatchObject({ state: 'done', findings: { errors: 0 } });
    expect(contents(copy)).toEqual(contents(file));
    // each table of the package has something in it here, so that none is forgotten
    const empty = contents(file).flatMap((each) => ('table' in each && each.rows.length === 0 ? [each.table] : []));
    expect(empty.filter((table) => !['period_status', 'cash_flow_line', 'rate'].includes(table))).toEqual([]);
  });

  it('change nothing when the same comes again, and lines that are due otherwise are other lines', async () => {
    const file = await workspaceOf(FULL);
    expect(await bringIn(file, FULL)).toMatchObject({ counts: { unchangedJournals: 2, changedJournals: 0 } });
    const later = String(FULL['journals.csv']).replace('2026-02-28', '2026-03-31');
    const change = { ...FULL, 'journals.csv': later };
    const outcome = await bringIn(file, change, undefined, { replacesChanged: true });
    expect(outcome).toMatchObject({ counts: { unchangedJournals: 1, changedJournals: 1 } });
  });

  const findingsOf = async (change: PackageFiles) => {
    const outcome = await bringIn(await newDatabase(), { ...FULL, ...change });
    if (outcome.state !== 'refused') throw new Error(`it is ${outcome.state}`);
    return outcome.findings.shown.filter(({ severity }) => severity === 'error').map(({ code }) => code);
  };
  const row = (file: string, text: string) => ({ [file]: `${String(FULL[file]).split('\n')[0]}\n${text}\n` });

  it.each<[string, PackageFiles]>([
    ['CORE_REFERENCE_UNKNOWN', { 'partners.csv': 'code,name,kind,entity,group\nS1,Clay works,supplier,,\n' }],
    ['CORE_HOLDING_UNKNOWN', row('impairments.csv', 'TWO,ONE,FY2026-P12,15.00')],
    ['CORE_DISPOSAL_OVER', row('disposals.csv', 'ONE,TWO,2026-07-01,90,300.00,')],
    ['CORE_DEAL_WITH_ITSELF', row('stock_held.csv', 'ONE,ONE,FY2026-P03,80.00,25,upstream,1000,5000')],
    ['CORE_CODES_UNKNOWN', row('standing_rules.csv', 'ALL,trade,balances,both,7000..7999,,,,')],
    ['CORE_LINK_PATTERN', row('source_links.csv', 'ONE,invoice,javascript:{document}')],
    ['CORE_ATTACHMENT_CHANGED', { 'attachments/inv7.pdf': 'another file' }],
    ['CORE_ATTACHMENT_MISSING', row('attachments.csv', 'ONE,2026,J1,,attachments/gone.pdf,Gone,00')],
    [
      'CORE_ACCOUNT_ROLE_NATURE',
      { 'accounts.csv': String(FULL['accounts.csv']).replace('Current,Cash,cash', 'Current,Cash,share_capital') },
    ],
  ])('are refused with %s', async (code, change) => {
    expect(await findingsOf(change)).toContain(code);
  });

  it('show on the journal: kind of document, due day, what is settled', async () => {
    const app = await buildApp({ databaseFile: await workspaceOf(FULL), webRoot: '/nonexistent' });
    const lines = (await app.inject('/api/v1/ledger/lines?scope=ONE&account=1000')).json<{
      lines: { journalId: number }[];
    }>();
    const journals = await Promise.all(
      lines.lines.map(async ({ journalId }) => (await app.inject(`/api/v1/journals/${journalId}`)).json<unknown>()),
    );
    expect(JSON.stringify(journals)).toContain('"documentType":"invoice","due":"2026-02-28"');
    expect(JSON.stringify(journals)).toContain('"settles":"INV-7"');
    expect(JSON.stringify(journals)).toContain('{"name":"partner","value":"C1","text":"Casa Verano"}');
    await app.close();
  });
});
