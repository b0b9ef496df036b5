import { existsSync, readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { CoreError, digitsOf, formatMinor, type Mapping, countText } from '@margin-lens/core';
import { AppError } from './base/app-error';
import { databaseError } from './store/database-error';
import { checkIntegrity } from './store/check-integrity';
import { deliveryOf } from './store/import-runs';
import { LOCAL_PERSON, Names } from './store/people';
import { Store, type Moment } from './store/store';
import { Workspace } from './features/workspace/workspace';
import { backUp, restore } from './store/backup';
import { writePackage } from './features/export/write-package';
import { foreignContext, knownCodes } from './features/foreign/foreign-context';
import { openForeign } from './features/foreign/foreign-source';
import { inspectFile } from './features/foreign/inspect-file';
import { keptMappings } from './features/foreign/kept-mappings';
import { importPackage } from './features/imports/import-package';
import type { FindingList, ImportOutcome } from './features/imports/import-request';
import { openPackage, type PackageSource } from './features/imports/package-source';
import { isForeignFile } from './features/deliveries/receive-upload';
import type { ExportFormat } from './base/export-format';
import { filePartsOf, fileBytes } from './features/statement-file/export-statement';
import { issueView } from './features/statements/issue-view';
import { openKept } from './features/statements/open-statement';

const USAGE = `Usage:
  npm run lens -- import <folder, zip, CSV or XLSX> [--again] [--replace] [--complete] [--mapping ID] [--dry-run] [--db FILE]
  npm run lens -- evaluate <statement> --as-at YYYY-MM --scope CODE [--columns ID] [--unit 1|1000|1000000]
                           --format json|csv|xlsx|pdf [--out FILE] [--db FILE]
  npm run lens -- check [--db FILE]              proves that the books hold together; exits with 1 where they do not
  npm run lens -- export <folder> [--db FILE]    writes the whole workspace as a ledger package
  npm run lens -- backup <file> [--db FILE]
  npm run lens -- restore <file> [--db FILE]

A CSV or XLSX file is read by the kept mapping with its columns, or by --mapping; the first of its kind is mapped on the
screen. --replace takes journals that come changed, --complete takes out journals of its months that a delivery leaves
out, --dry-run only says what would change. <statement> is the id of a statement in the workspace. The workspace file is
--db, else $MARGIN_LENS_DB, else var/workspace.db.`;

const OPTIONS = {
  db: { type: 'string' },
  again: { type: 'boolean' },
  replace: { type: 'boolean' },
  complete: { type: 'boolean' },
  'dry-run': { type: 'boolean' },
  mapping: { type: 'string' },
  'as-at': { type: 'string' },
  scope: { type: 'string' },
  columns: { type: 'string' },
  unit: { type: 'string' },
  format: { type: 'string' },
  out: { type: 'string' },
} as const;

class UsageError extends Error {}

type Options = ReturnType<typeof parseArgs<{ options: typeof OPTIONS; allowPositionals: true }>>['values'];

const databaseOf = (options: Options): string => options.db ?? process.env['MARGIN_LENS_DB'] ?? 'var/workspace.db';

function printFindings(findings: FindingList): void {
  for (const found of findings.shown.map(issueView)) {
    const place = [found.file, found.line && `line ${found.line}`, found.column].filter(Boolean).join(', ');
    console.error(`${found.severity}: ${place ? `${place}: ` : ''}${found.message} ${found.hint}`);
  }
  const counted = findings.countByCode.reduce((sum, [, count]) => sum + count, 0);
  if (counted > findings.shown.length) console.error(`and ${counted - findings.shown.length} more findings`);
}

/** The source of a delivery: a ledger package, or a foreign file by a mapping that is kept. */
async function sourceOf(books: Moment, location: string, options: Options): Promise<[PackageSource, Mapping?]> {
  if (!isForeignFile(location)) return [await openPackage(location)];
  const fileName = path.basename(location);
  const kept = await keptMappings(books.em);
  const context = await foreignContext(books);
  const inspection = await inspectFile({ location, fileName, known: knownCodes(context), kept });
  if (!('mapping' in inspection)) {
    printFindings({ shown: inspection.findings, errors: inspection.findings.length, countByCode: [] });
    throw new UsageError(`${fileName} cannot be read.`);
  }
  const { findings: noticed } = inspection;
  printFindings({ shown: noticed, errors: 0, countByCode: [] });
  const named = kept.find(({ id }) => id === options.mapping);
  if (options.mapping !== undefined && !named)
    throw new UsageError(
      `There is no mapping ${options.mapping}; kept are: ${kept.map(({ id }) => id).join(', ') || 'none'}.`,
    );
  if (!named && !inspection.isKept)
    throw new UsageError(
      `No kept mapping has the columns of ${fileName}; map it once on the screen, or name one with --mapping.`,
    );
  const mapping = named ?? inspection.mapping;
  return [await openForeign(location, fileName, mapping, context), mapping];
}

async function importCommand(location: string, options: Options): Promise<number> {
  const file = databaseOf(options);
  const store = await Store.open(file);
  const books = (await store.moment())!;
  try {
    const [source, mapping] = await sourceOf(books, location, options);
    const digest = await source.digest();
    const earlier = options.again ? null : await deliveryOf(books.em, digest);
    if (earlier) {
      const person = (await Names.read(books.em)).of(earlier.person);
      console.error(
        `These very files were brought in on ${earlier.finishedAt} by ${person}. Nothing was read; --again reads them once more.`,
      );
      return 1;
    }
    let shownAt = Date.now();
    const outcome = await importPackage(store, {
      source,
      fileName: path.basename(location),
      digest,
      person: LOCAL_PERSON,
      isCancelled: () => false,
      now: () => new Date(),
      isTrial: options['dry-run'] === true,
      replacesChanged: options.replace === true,
      isComplete: options.complete === true,
      ...(mapping ? { mapping } : {}),
      onProgress: ({ file: name, rows, bytesRead, bytesTotal }) => {
        if (Date.now() - shownAt < 1000) return;
        shownAt = Date.now();
        console.log(`${name}: ${countText(rows)} rows, ${Math.round((100 * bytesRead) / bytesTotal)} %`);
      },
    });
    source.close();
    return tell(outcome);
  } finally {
    await books.close();
    await store.close();
  }
}

const counted = (count: number, what: string): string => `${countText(count)} ${what}${count === 1 ? '' : 's'}`;

/** Says what came of a delivery; the exit code. */
function tell(outcome: ImportOutcome): number {
  if (outcome.state === 'cancelled') return 1;
  printFindings(outcome.findings);
  if (outcome.state === 'refused') {
    console.error(`Nothing was brought in: ${counted(outcome.findings.errors, 'error')}.`);
    return 1;
  }
  const { journals, lines, figures, unchangedJournals, changedJournals, removedJournals } = outcome.counts;
  const [brought, took] =
    outcome.state === 'done' ? ['Brought in', ` in ${outcome.seconds.toFixed(1)} s`] : ['Would bring in', ''];
  console.log(
    `${brought} ${counted(journals, 'journal')} with ${counted(lines, 'line')} and ${counted(figures, 'figure')}${took}; ` +
      `${counted(changedJournals, 'journal')} changed, ${countText(removedJournals)} removed, ` +
      `${countText(unchangedJournals)} there already.`,
  );
  if (outcome.state === 'checked') {
    for (const { entity, currency, period, debit, credit, profit } of outcome.effect.months) {
      const text = (minor: number) => formatMinor(minor, digitsOf(currency));
      console.log(
        `${entity} ${period}: debit ${text(debit)}, credit ${text(credit)}, profit ${text(profit)} ${currency}`,
      );
    }
  }
  return 0;
}

async function checkCommand(options: Options): Promise<number> {
  const store = await Store.open(existing(options));
  const moment = (await store.moment())!;
  try {
    const checks = await checkIntegrity(store.file, moment);
    for (const { name, agrees, says } of checks) console.log(`${agrees ? 'ok ' : 'OFF'} ${name}: ${says}`);
    return checks.every(({ agrees }) => agrees) ? 0 : 1;
  } finally {
    await moment.close();
    await store.close();
  }
}

async function exportCommand(folder: string, options: Options): Promise<number> {
  const files = await writePackage(existing(options), folder);
  console.log(`Wrote ${files.length} files to ${folder}.`);
  return 0;
}

async function backupCommand(file: string, options: Options): Promise<number> {
  await backUp(existing(options), file);
  console.log(`The workspace ${databaseOf(options)} is backed up in ${file}.`);
  return 0;
}

async function restoreCommand(file: string, options: Options): Promise<number> {
  await restore(file, databaseOf(options));
  console.log(`${file} is restored as the workspace ${databaseOf(options)}.`);
  return 0;
}

/** The workspace file, which must be there. */
function existing(options: Options): string {
  const file = databaseOf(options);
  if (!existsSync(file)) throw new UsageError(`There is no workspace file ${file}; import a package first.`);
  return file;
}

const FORMATS: readonly ExportFormat[] = ['json', 'csv', 'xlsx', 'pdf'];

async function evaluateCommand(statement: string, options: Options): Promise<number> {
  const { scope, columns, out, 'as-at': asAt } = options;
  const format = FORMATS.find((known) => known === (options.format ?? 'json'));
  if (!scope || !asAt) throw new UsageError('evaluate needs --as-at and --scope.');
  if (!format) throw new UsageError(`--format is one of ${FORMATS.join(', ')}.`);
  if (options.unit !== undefined && !['1', '1000', '1000000'].includes(options.unit))
    throw new UsageError('--unit is 1, 1000 or 1000000.');
  if ((format === 'xlsx' || format === 'pdf') && !out) throw new UsageError(`--format ${format} needs --out FILE.`);
  const file = existing(options);
  const id = statement.endsWith('.json')
    ? String((JSON.parse(readFileSync(statement, 'utf8')) as { id?: unknown }).id)
    : statement;
  const workspace = new Workspace(await Store.open(file));
  try {
    const context = { scope, as_at: asAt, ...(columns ? { columns } : {}) };
    const unit = options.unit === undefined ? undefined : Number(options.unit);
    const body = await workspace.read(await workspace.viewer(LOCAL_PERSON), async (snapshot) =>
      fileBytes(filePartsOf(await openKept(snapshot, id, context), { format, unit, remarks: [] })),
    );
    if (out) await writeFile(out, body);
    else process.stdout.write(body);
    return 0;
  } finally {
    await workspace.close();
  }
}

async function run(): Promise<number> {
  const { values, positionals } = parseArgs({ options: OPTIONS, allowPositionals: true });
  const [command, subject] = positionals;
  if (command === 'import' && subject) return importCommand(subject, values);
  if (command === 'evaluate' && subject) return evaluateCommand(subject, values);
  if (command === 'check') return checkCommand(values);
  if (command === 'export' && subject) return exportCommand(subject, values);
  if (command === 'backup' && subject) return backupCommand(subject, values);
  if (command === 'restore' && subject) return restoreCommand(subject, values);
  throw new UsageError('');
}

run().then(
  (code) => (process.exitCode = code),
  (thrown: unknown) => {
    const error = databaseError(thrown) ?? thrown;
    const isPersonal = error instanceof AppError || error instanceof CoreError || error instanceof UsageError;
    const isArgument = error instanceof TypeError && 'code' in error;
    if (isPersonal || isArgument)
      console.error([error.message, error instanceof AppError ? error.hint : USAGE].filter(Boolean).join('\n'));
    else console.error(error);
    process.exitCode = 2;
  },
);
