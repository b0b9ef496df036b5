import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import Database from 'better-sqlite3';
import { onStore, undo } from '../../test/opened-store';
import { bringIn, query, tinyFiles, workspaceOf } from '../../test/tiny-package';
import { keptTextMatches, textFileOf } from './text-file';
import { textMatches, type Texts } from './text-matches';

const lines = (...texts: string[]) =>
  tinyFiles({
    'journals.csv': [
      'entity,journal,line,date,account,debit,credit,description',
      ...texts.flatMap((text) => [
        `ONE,${text},1,2026-02-10,5000,10.00,,${text}`,
        `ONE,${text},2,2026-02-10,1000,,10.00,${text}`,
      ]),
      '',
    ].join('\n'),
  });

const soughtIn = (file: string): Texts => ({
  accounts: query<{ id: number }>(file, 'select id from account').map(({ id }) => id),
  texts: ['rent'],
  dimensions: ['team'],
});

/** Texts of what is found, by the file beside the workspace and without it. */
const found = (file: string, keptFrom = 0) =>
  onStore(file, (_, { db, revision }) => {
    const texts = soughtIn(file);
    const entities = query<{ id: number }>(file, 'select id from entity').map(({ id }) => id);
    const textsOf = (found: readonly (readonly { description: string }[])[]) =>
      found
        .flat()
        .map(({ description }) => description)
        .sort();
    return {
      kept: textsOf(keptTextMatches(file, db, entities, revision, texts, keptFrom)),
      looked: textsOf(textMatches(db, entities, revision, texts)),
    };
  });

/** Leaves the first line out of all that is kept, so that it shows where what is kept is read. */
function spoil(file: string): void {
  const held = JSON.parse(readFileSync(textFileOf(file), 'utf8'));
  for (const { found } of held.kept) for (const { matches } of found) matches.shift();
  writeFileSync(textFileOf(file), JSON.stringify(held));
}

function onDatabase(file: string, sql: string): void {
  const db = new Database(file);
  db.exec(sql);
  db.close();
}

describe('the file of lines with texts', () => {
  it('is read in place of the lines, with what came and went since', async () => {
    const file = await workspaceOf(lines('Rent of a hall', 'Cleaning'));
    const hall = ['Rent of a hall', 'Rent of a hall'];
    expect(await found(file)).toEqual({ kept: hall, looked: hall });
    await bringIn(file, lines('Rent of a car', 'Fuel'));
    const both = ['Rent of a car', 'Rent of a car', ...hall];
    expect(await found(file)).toEqual({ kept: both, looked: both });
    spoil(file);
    expect(await found(file)).toEqual({ kept: both.slice(0, 3), looked: both });
    const { id } = query<{ id: number }>(file, 'select max(id) as id from import_run')[0]!;
    await undo(file, id);
    expect(await found(file)).toEqual({ kept: hall.slice(1), looked: hall });
  });

  it('is no file of another workspace, none that is cut short, and none of a small one', async () => {
    const [file, other] = [await workspaceOf(lines('Rent of a hall')), await workspaceOf(lines('Rent of a car'))];
    const car = ['Rent of a car', 'Rent of a car'];
    await found(file);
    onDatabase(other, "update workspace_revision set at = '2026-01-01T00:00:00.000Z'");
    copyFileSync(textFileOf(file), textFileOf(other));
    expect(await found(other)).toEqual({ kept: car, looked: car });
    writeFileSync(textFileOf(other), readFileSync(textFileOf(other), 'utf8').slice(0, -20));
    expect(await found(other)).toEqual({ kept: car, looked: car });
    const small = await workspaceOf(lines('Rent of a boat'));
    await found(small, 50_000);
    expect(() => readFileSync(textFileOf(small))).toThrow('ENOENT');
  });
});
