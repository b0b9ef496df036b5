import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { NOTHING_NEW, additionTables, stillNew, type Additions, type Mapping } from '@margin-lens/core';
import { newFolder, query, workspaceOf } from '../../../test/tiny-package';
import { importPackage } from '../imports/import-package';
import { Store } from '../../store/store';
import { classifyNew } from './classify-new';
import { foreignContext, knownCodes } from './foreign-context';
import { openForeign, withTables } from './foreign-source';
import { inspectFile } from './inspect-file';

const LINES = [
  'journal,date,entity,account,account name,debit,credit,team,oven',
  'F1,2026-03-10,ONE,5100,Heating oil,80.00,,red,O1',
  // an entity may be called by its name
  'F1,2026-03-10,one,5100,Heating oil,20.00,,blue,O2',
  'F1,2026-03-10,ONE,1000,,,100.00,,',
];

/** Delivers a file as the screen does, its column of ovens read as a new dimension. */
async function deliver(
  database: string,
  additions: Additions,
  lines: readonly string[] = LINES,
  said: Partial<Mapping> = {},
) {
  const location = path.join(newFolder(), 'ovens.csv');
  writeFileSync(location, lines.join('\n'));
  const store = await Store.open(database);
  const books = (await store.moment())!;
  try {
    const file = {
      location,
      fileName: 'ovens.csv',
      kept: [],
      said: { purpose: said.purpose ?? ('journals' as const) },
    };
    const inspection = await inspectFile({ ...file, known: knownCodes(await foreignContext(books)) });
    if (!('mapping' in inspection)) throw new Error('cannot be read');
    const mapping: Mapping = {
      ...inspection.mapping,
      columns: { ...inspection.mapping.columns, ...(!said.purpose && { 'dim:oven': 'oven' }) },
      ...said,
    };
    const context = await foreignContext(books, additions);
    const source = withTables(await openForeign(location, 'ovens.csv', mapping, context), additionTables(additions));
    const outcome = await importPackage(store, {
      source,
      fileName: 'ovens.csv',
      digest: await source.digest(),
      person: 'test',
      onProgress: () => undefined,
      isCancelled: () => false,
      now: () => new Date(),
    });
    return { outcome, unmatched: source.unmatched() };
  } finally {
    await books.close();
    await store.close();
  }
}

const accountsOf = (database: string) =>
  query<{ number: string }>(database, "SELECT number FROM account WHERE until IS NULL AND number = '5100'");

describe('a foreign file with codes that the books do not have', () => {
  it('is refused, and says of each how often it stands there, what it is called and what is posted to it', async () => {
    const database = await workspaceOf();
    const { outcome, unmatched } = await deliver(database, NOTHING_NEW);
    expect(outcome.state).toBe('refused');
    // by hand: 80 and 20 are posted to heating oil; one line each of the blue team and of either oven
    expect(unmatched).toEqual([
      { target: 'account', text: '5100', count: 2, name: 'Heating oil', stand: 100 },
      { target: 'dim:oven', text: 'O1', count: 1, name: '', stand: 0 },
      { target: 'dim:oven', text: 'O2', count: 1, name: '', stand: 0 },
      { target: 'dim:team', text: 'blue', count: 1, name: '', stand: 0 },
    ]);
    expect(accountsOf(database)).toEqual([]);
  });

  it('of a trial balance is told with its name and what it stands at, too', async () => {
    const lines = ['Account;Account name;Balance', '1000;Cash;1.174,00', '5100;Heating oil;80,00'];
    const said = { purpose: 'trial_balance' as const, constants: { entity: 'ONE', period: 'FY2026-P12' } };
    const { unmatched } = await deliver(await workspaceOf(), NOTHING_NEW, lines, said);
    expect(unmatched).toEqual([{ target: 'account', text: '5100', count: 1, name: 'Heating oil', stand: 80 }]);
  });

  it('brings nothing over what somebody else has set up meanwhile', () => {
    const additions = {
      accounts: [{ number: '5000', name: 'Mine', nature: 'asset' as const, heading: '', subHeading: '', role: '' }],
      values: [
        { dimension: 'team', value: 'red', name: 'Mine' },
        { dimension: 'team', value: 'blue', name: '' },
      ],
    };
    const held = { accounts: new Map([['5000', {} as never]]), dimensions: new Map([['team', new Set(['red'])]]) };
    expect(stillNew(additions, held)).toEqual({ accounts: [], values: [additions.values[1]] });
  });

  it('is told how a new account would be classified, beside those that the books have', async () => {
    const chart = ['6000', '6010', '6020', '6030'].map((number, id) => ({
      ...{ id, number, name: `Kiln ${number}`, nature: 'expense', category: 'Costs', subcategory: 'Firing', role: '' },
    }));
    const found = { target: 'account', text: '6040', count: 1, name: '', stand: -5 };
    const value = { target: 'dim:team', text: 'blue', count: 1, name: '', stand: 0 };
    const [account, team] = classifyNew([found, value], chart);
    // its number says what its name does not, although what is posted to it stands in credit
    expect(account!.classification).toMatchObject({ nature: 'expense', heading: 'Costs', subHeading: 'Firing' });
    expect(team).toEqual({ target: 'dim:team', text: 'blue', count: 1, name: '', classification: null });
  });

  it('brings them along in one with its journals, once a person has taken them as new', async () => {
    const database = await workspaceOf();
    const { outcome, unmatched } = await deliver(database, {
      accounts: [
        { number: '5100', name: 'Heating oil', nature: 'expense', heading: 'Costs', subHeading: 'Energy', role: '' },
      ],
      values: [
        { dimension: 'team', value: 'blue', name: 'Blue' },
        { dimension: 'oven', value: 'O1', name: '' },
        { dimension: 'oven', value: 'O2', name: 'Second oven' },
      ],
    });
    expect([outcome.state, unmatched]).toEqual(['done', []]);
    expect(accountsOf(database)).toHaveLength(1);
    const values = query(
      database,
      "SELECT dimension, value, name FROM dimension_value WHERE value IN ('red', 'blue', 'O1', 'O2') ORDER BY value",
    );
    // what was there stays beside what is new
    expect(values).toEqual([
      { dimension: 'oven', value: 'O1', name: 'O1' },
      { dimension: 'oven', value: 'O2', name: 'Second oven' },
      { dimension: 'team', value: 'blue', name: 'Blue' },
      { dimension: 'team', value: 'red', name: 'Red' },
    ]);
    const [{ lines }] = query<{ lines: number }>(
      database,
      "SELECT count(*) AS lines FROM journal_line JOIN account ON account.id = journal_line.account WHERE account.number = '5100'",
    ) as [{ lines: number }];
    expect(lines).toBe(2);
  });
});
