import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import Database from 'better-sqlite3';
import { LOCAL_PERSON } from '../src/store/people';
import { Store } from '../src/store/store';
import { importPackage } from '../src/features/imports/import-package';
import type { ImportOutcome, ImportRequest } from '../src/features/imports/import-request';
import { openPackage } from '../src/features/imports/package-source';

export type PackageFiles = Record<string, string | Buffer>;

const months = Array.from({ length: 12 }, (_, index) => {
  const month = String(index + 1).padStart(2, '0');
  const days = new Date(Date.UTC(2026, index + 1, 0)).getUTCDate();
  return `cal,2026,${index + 1},2026-${month},2026-${month}-01,2026-${month}-${days},regular,${Math.ceil((index + 1) / 3)}`;
});

/** A small ledger package of one entity with a calendar year, three journals and a plan; every file can be replaced. */
export function tinyFiles(change: PackageFiles = {}): PackageFiles {
  return {
    'workspace.json': JSON.stringify({ name: 'Tiny', reporting_currency: 'EUR' }),
    'calendars.csv': `calendar,fiscal_year,period,label,start,end,kind,quarter\n${months.join('\n')}\ncal,2026,13,Adj,2026-12-31,2026-12-31,adjustment,4\n`,
    'entities.csv': 'code,name,currency,calendar\nONE,One,EUR,cal\nTWO,Two,JPY,cal\n',
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,cal,ONE,\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role',
      '1000,Cash,asset,Current,Cash,cash',
      '3000,Retained earnings,equity,Equity,Reserves,retained_earnings',
      '4000,Sales,income,Sales,Goods,',
      '5000,Rent,expense,Costs,=Rent,',
      '9000,Headcount,statistic,Statistics,People,',
      '',
    ].join('\n'),
    'dimensions.csv': 'dimension,value,name,parent\nteam,red,Red,\n',
    'versions.csv': 'code,name,kind,from_period,to_period\nPLAN,Plan,plan,FY2026-P01,FY2026-P12\n',
    'figures.csv': 'version,entity,account,period,amount,quantity\nPLAN,ONE,4000,FY2026-P01,900.00,\n',
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team',
      'ONE,O1,opening,1,2026-01-01,,1000,500.00,,,Brought forward,',
      'ONE,J1,,1,2026-01-31,,1000,1000.00,,,Sales in January,',
      'ONE,J2,,1,2026-02-10,,5000,300.00,,,Rent,red',
      'ONE,O1,opening,2,2026-01-01,,3000,,500.00,,Brought forward,',
      'ONE,J1,,2,2026-01-31,,4000,,1000.00,,Sales in January,red',
      'ONE,J2,,2,2026-02-10,,1000,,300.00,,"Rent, ""paid""",red',
      'ONE,S1,,1,2026-02-28,,9000,,,4,Joiners,',
      'ONE,Y1,,1,2026-12-31,FY2026-P13,5000,25.00,,,Audit,',
      'ONE,Y1,,2,2026-12-31,FY2026-P13,1000,,25.00,,Audit,',
      '',
    ].join('\n'),
    ...change,
  };
}

/** A new folder below the one of this run, which is removed at its end. */
export const newFolder = (): string => mkdtempSync(path.join(process.env['MARGIN_LENS_TEST_FILES']!, 'test-'));

/** Writes files into a new folder. */
export function writeFolder(files: PackageFiles): string {
  const folder = newFolder();
  for (const [name, body] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(folder, name)), { recursive: true });
    writeFileSync(path.join(folder, name), body);
  }
  return folder;
}

/** A copy of a workspace file that is made once a run, by whoever needs it first. */
async function copyOf(name: string, make: (file: string) => Promise<unknown>): Promise<string> {
  const made = path.join(process.env['MARGIN_LENS_TEST_FILES']!, `${name}.db`);
  if (!existsSync(made)) {
    const file = path.join(newFolder(), 'made.db');
    await make(file);
    renameSync(file, made);
  }
  const copy = path.join(newFolder(), 'workspace.db');
  copyFileSync(made, copy);
  return copy;
}

/** A new workspace file with its tables. */
export const newDatabase = (): Promise<string> => copyOf('empty', async (file) => (await Store.open(file)).close());

/** A new workspace file with a package in its books, the tiny one unless others are given. */
export function workspaceOf(files: PackageFiles = tinyFiles()): Promise<string> {
  const digest = createHash('sha256').update(JSON.stringify(files)).digest('hex').slice(0, 16);
  return copyOf(digest, async (file) => {
    copyFileSync(await newDatabase(), file);
    const outcome = await bringIn(file, files);
    if (outcome.state !== 'done') throw new Error(`the package is ${JSON.stringify(outcome)}`);
  });
}

const NOW = new Date('2026-11-24T10:00:00Z');

/** Imports files, or a folder or zip at a path, into a workspace file. */
export async function bringIn(
  databaseFile: string,
  what: PackageFiles | string,
  isCancelled: () => boolean = () => false,
  more: Partial<ImportRequest> = {},
): Promise<ImportOutcome> {
  const store = await Store.open(databaseFile);
  try {
    return await bringInto(store, what, { isCancelled, ...more });
  } finally {
    await store.close();
  }
}

/** Imports files, or a folder or zip at a path, into a workspace that is open. */
export async function bringInto(
  store: Store,
  what: PackageFiles | string,
  more: Partial<ImportRequest> = {},
): Promise<ImportOutcome> {
  const source = await openPackage(typeof what === 'string' ? what : writeFolder(what));
  try {
    return await importPackage(store, {
      source,
      fileName: 'tiny',
      digest: await source.digest(),
      person: LOCAL_PERSON,
      onProgress: () => undefined,
      isCancelled: () => false,
      now: () => NOW,
      ...more,
    });
  } finally {
    source.close();
  }
}

/** Rows of a query on a workspace file. */
export function query<T>(databaseFile: string, sql: string): T[] {
  const db = new Database(databaseFile, { readonly: true });
  try {
    return db.prepare(sql).all() as T[];
  } finally {
    db.close();
  }
}
