import { existsSync, readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { CoreError } from '@margin-lens/core';
import { AppError } from './app-error';
import { openDatabase } from './database/open-database';
import { openImportConnection } from './features/imports/import-connection';
import { earlierImport, importPackage, type FindingList } from './features/imports/import-package';
import { openPackage } from './features/imports/package-source';
import { exportStatement, type ExportFormat } from './features/statements/export-statement';
import { issueView } from './features/statements/issue-view';
import { StatementsService } from './features/statements/statements-service';
import { WorkspaceCache } from './features/workspace/workspace-cache';
import { LOCAL_VIEWER } from './viewer';

const USAGE = `Usage:
  npm run lens -- import <folder or zip> [--again] [--db FILE]
  npm run lens -- evaluate <statement> --as-at YYYY-MM --scope CODE [--columns ID] [--unit 1|1000|1000000]
                           --format json|csv|xlsx [--out FILE] [--db FILE]

<statement> is the id of a statement in the workspace. The workspace file is --db, else $MARGIN_LENS_DB, else
var/workspace.db.`;

const OPTIONS = {
  db: { type: 'string' },
  again: { type: 'boolean' },
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

async function importCommand(location: string, options: Options): Promise<number> {
  const file = databaseOf(options);
  await (await openDatabase(file)).close();
  const source = await openPackage(location);
  const db = openImportConnection(file);
  try {
    const digest = await source.digest();
    const earlier = options.again ? undefined : earlierImport(db, digest);
    if (earlier) {
      console.error(
        `These very files were brought in on ${earlier.finishedAt} by ${earlier.person}. Nothing was read; --again reads them once more.`,
      );
      return 1;
    }
    let shownAt = Date.now();
    const outcome = await importPackage(db, {
      source,
      fileName: path.basename(location),
      digest,
      person: LOCAL_VIEWER.name,
      isCancelled: () => false,
      now: () => new Date(),
      onProgress: ({ file: name, rows, bytesRead, bytesTotal }) => {
        if (Date.now() - shownAt < 1000) return;
        shownAt = Date.now();
        console.log(`${name}: ${rows.toLocaleString('en')} rows, ${Math.round((100 * bytesRead) / bytesTotal)} %`);
      },
    });
    if (outcome.state === 'done') {
      const { counts, seconds } = outcome;
      printFindings(outcome.findings);
      console.log(
        `Brought in ${counts.journals.toLocaleString('en')} journals with ${counts.lines.toLocaleString('en')} lines and ` +
          `${counts.figures.toLocaleString('en')} figures in ${seconds.toFixed(1)} s; ${counts.unchangedJournals.toLocaleString('en')} journals were there already.`,
      );
      return 0;
    }
    if (outcome.state === 'refused') {
      printFindings(outcome.findings);
      console.error(`Nothing was brought in: ${outcome.findings.errors} errors.`);
    }
    return 1;
  } finally {
    db.close();
    source.close();
  }
}

const FORMATS: readonly ExportFormat[] = ['json', 'csv', 'xlsx'];

async function evaluateCommand(statement: string, options: Options): Promise<number> {
  const { scope, columns, out, 'as-at': asAt } = options;
  const format = FORMATS.find((known) => known === (options.format ?? 'json'));
  if (!scope || !asAt) throw new UsageError('evaluate needs --as-at and --scope.');
  if (!format) throw new UsageError(`--format is one of ${FORMATS.join(', ')}.`);
  if (options.unit !== undefined && !['1', '1000', '1000000'].includes(options.unit))
    throw new UsageError('--unit is 1, 1000 or 1000000.');
  if (format === 'xlsx' && !out) throw new UsageError('--format xlsx needs --out FILE.');
  const file = databaseOf(options);
  if (!existsSync(file)) throw new UsageError(`There is no workspace file ${file}; import a package first.`);
  const id = statement.endsWith('.json')
    ? String((JSON.parse(readFileSync(statement, 'utf8')) as { id?: unknown }).id)
    : statement;
  const orm = await openDatabase(file);
  try {
    const service = new StatementsService(new WorkspaceCache(orm));
    const context = { scope, as_at: asAt, ...(columns ? { columns } : {}) };
    const opened = await service.open(LOCAL_VIEWER, id, context);
    const { body } = await exportStatement(
      opened,
      format,
      options.unit === undefined ? undefined : Number(options.unit),
    );
    if (out) await writeFile(out, body);
    else process.stdout.write(body);
    return 0;
  } finally {
    await orm.close();
  }
}

async function run(): Promise<number> {
  const { values, positionals } = parseArgs({ options: OPTIONS, allowPositionals: true });
  const [command, subject] = positionals;
  if (command === 'import' && subject) return importCommand(subject, values);
  if (command === 'evaluate' && subject) return evaluateCommand(subject, values);
  throw new UsageError('');
}

run().then(
  (code) => (process.exitCode = code),
  (error: unknown) => {
    const isPersonal = error instanceof AppError || error instanceof CoreError || error instanceof UsageError;
    const isArgument = error instanceof TypeError && 'code' in error;
    if (isPersonal || isArgument)
      console.error([error.message, error instanceof AppError ? error.hint : USAGE].filter(Boolean).join('\n'));
    else console.error(error);
    process.exitCode = 2;
  },
);
