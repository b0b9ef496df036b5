import { evaluateStatement, formatMinor, type Figure, type ShownUnit, type StatementTable } from '@margin-lens/core';
import { csvForSpreadsheets } from '../../safety/spreadsheet-text';
import { statementPdf } from './statement-pdf';
import { fileApart } from '../../base/work-apart';
import type { ExportFormat } from '../../base/export-format';
import { exportedParts } from './exported-parts';
import { fileNameOf } from './statement-texts';
import type { OpenedStatement } from './open-statement';
import { statementBook } from './statement-workbook';

/** A statement as a file. XLSX has live formulas and formats; PDF is for paper; CSV and JSON hold exact, unrounded figures. */
export async function exportStatement(
  opened: OpenedStatement,
  format: ExportFormat,
  unit: number = opened.document.unit,
): Promise<{ fileName: string; body: Buffer | string }> {
  const fileName = fileNameOf(opened, format);
  if (format === 'xlsx')
    return { fileName, body: await fileApart('writeStatementBook', statementBook(opened, unit as ShownUnit)) };
  if (format === 'pdf') return { fileName, body: await statementPdf(opened, unit as ShownUnit, new Date()) };
  const table = evaluateStatement(opened.source, opened.evaluation);
  return { fileName, body: format === 'csv' ? statementCsv(table, opened) : statementJson(opened, table) };
}

/** An exact figure as text: money with all its decimals, ratios as fractions, empty where undefined. */
function exactText({ amount, unit, word }: Figure): string {
  if (word) return word;
  if (amount === null) return '';
  if (unit.kind === 'currency') return formatMinor(amount, unit.digits);
  return unit.kind === 'count' ? String(amount / 10_000) : String(Number(amount.toPrecision(15)));
}

function statementCsv(table: StatementTable, { document, evaluation }: OpenedStatement): string {
  const { misplacedFrom } = evaluation.input.rows;
  const { rows, columns } = exportedParts(table, misplacedFrom, document.presentation ?? {});
  const heads = columns.map((at) => {
    const { blockLabel, label, note } = table.columns[at]!;
    return [blockLabel, label, note].filter(Boolean).join(' · ');
  });
  const lines = rows.map(({ row }) => {
    const cells = row.cells.length === 0 ? [] : columns.map((at) => exactText(row.cells[at]!));
    return [row.id, row.label, ...cells];
  });
  return csvForSpreadsheets([['row', 'label', ...heads], ...lines]);
}

function statementJson({ document, scope, source }: OpenedStatement, table: StatementTable): string {
  const body = {
    statement: document.id,
    name: document.name,
    scope: scope.code,
    currency: scope.currency.code,
    as_at: source.at.key,
    columns: table.columns.map(({ id, blockLabel, label, note, dates }) => ({
      id,
      block: blockLabel,
      label,
      note,
      dates,
    })),
    rows: table.rows.map(rowJson),
    misplaced_rows: table.misplacedRows.map(rowJson),
    coverage: table.coverage,
    profit: table.profit,
  };
  return `${JSON.stringify(body, null, 2)}\n`;
}

const rowJson = ({ id, label, style, cells }: StatementTable['rows'][number]) => ({
  id,
  label,
  style,
  cells: cells.map((cell) => ({
    value: cell.amount === null ? null : exactText(cell),
    unit: cell.unit.kind,
    reason: cell.reason,
  })),
});
