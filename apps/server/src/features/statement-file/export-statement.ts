import {
  breakdownOption,
  chartedValues,
  chartOf,
  heightOf,
  dayShort,
  exactText,
  factsOf,
  monthBlocks,
  outlineOf,
  remarkWords,
  sheetTable,
  statementPage,
  withFormulas,
  type Facts,
  type PageBlock,
  type SheetTable,
  type ShownUnit,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { ExportFormat } from '../../base/export-format';
import { pageFile } from '../../page/page-file';
import { fileNameOf } from '../statements/statement-texts';
import type { LiveRemark, StatementView } from '@margin-lens/contract';
import { viewOf, type OpenedStatement } from '../statements/open-statement';
import { expected } from '../../base/words';

export interface StatementFile {
  format: ExportFormat;
  /** What money is read in; that of the statement where it is left out. */
  unit?: number | undefined;
  /** Those that go along. */
  remarks: readonly LiveRemark[];
  /** The row whose months go along as charts; the columns are then those of charts. */
  chart?: string | undefined;
}

/**
 * A statement as a file: its page on paper. JSON is the same page for programs, with coverage and proof.
 * @throws SRV_VALUE_UNKNOWN for a chart of a row that is not on the page
 */
export async function exportStatement(
  opened: OpenedStatement,
  { format, unit = opened.document.unit, remarks, chart }: StatementFile,
): Promise<{ fileName: string; body: Buffer | string }> {
  const fileName = fileNameOf(opened, format);
  const sheet = viewOf(opened);
  const reading = { on: 'paper', unit: unit as ShownUnit } as const;
  const table = sheetTable(sheet, reading);
  if (format === 'json') return { fileName, body: statementJson(opened, sheet, table) };
  const written = format === 'xlsx' ? withFormulas(table, opened.evaluation) : table;
  const page = statementPage(sheet, reading, written);
  const charts = chart === undefined ? [] : monthBlocks(sheet, chart, reading.unit);
  if (!charts) {
    const known = table.rows.flatMap(({ id, kind }) => (kind === 'figures' ? [id] : [])).join(', ');
    throw appError('SRV_VALUE_UNKNOWN', { what: expected.drawnRow, text: chart!, known });
  }
  const blocks = [
    ...charts,
    ...drawnBlocks(opened, sheet, reading.unit),
    ...page.blocks,
    ...remarkBlocks(remarks, table, reading.unit),
  ];
  const facts = format === 'xlsx' ? factsIn(opened, table) : undefined;
  return { fileName, body: await pageFile({ ...page, blocks, ...(facts && { facts }) }, format, reading.unit) };
}

/** The figures of a breakdown as a flat table. */
function factsIn({ breakdown, source }: OpenedStatement, table: SheetTable): Facts | undefined {
  if (!breakdown) return undefined;
  const { definition, fields, placeOf } = breakdown;
  const labels = new Map(outlineOf(source.rowLayout.rows).map(({ row }) => [row.id, row.label]));
  return factsOf({
    ...{ table, breakdown: definition, placeOf },
    fieldName: (by) => fields.find((field) => field.by === by)?.name ?? by,
    rowName: (id) => labels.get(id) ?? id,
  });
}

/** The chart of a breakdown that is shown with one, above its table. */
function drawnBlocks({ breakdown }: OpenedStatement, sheet: StatementView, unit: ShownUnit): PageBlock[] {
  const definition = breakdown?.definition;
  const values = definition?.shows && chartedValues(sheet);
  if (!values) return [];
  const kind = chartOf(values, definition.chart);
  const option = breakdownOption(kind, values, unit);
  return [{ kind: 'chart', title: '', words: '', option, height: heightOf(kind, values) }];
}

/** Remarks below the table, in the order of its rows; those of rows that are not on the page stay behind. */
function remarkBlocks(remarks: readonly LiveRemark[], { rows, columns }: SheetTable, unit: ShownUnit): PageBlock[] {
  const lines = [{ id: '', label: '' }, ...rows].flatMap(({ id, label }) =>
    remarks
      .filter(({ row }) => row === id)
      .map((remark) => {
        const column = columns.find((each) => each.id === remark.column)?.label;
        const place = [label, column].filter(Boolean).join(', ');
        const words = remarkWords(remark, unit);
        return `${place ? `${place}: ` : ''}${words} (${remark.author}, ${dayShort(remark.writtenAt.slice(0, 10))})`;
      }),
  );
  if (lines.length === 0) return [];
  return [{ kind: 'heading', text: 'Remarks' }, ...lines.map((text): PageBlock => ({ kind: 'text', text }))];
}

function statementJson({ document, scope, source }: OpenedStatement, sheet: StatementView, table: SheetTable): string {
  const { misplacedFrom } = table;
  const rows = table.rows.map(({ id, label, style, cells }) => ({
    ...{ id, label, style },
    cells: cells.map(({ figure }) => ({
      value: figure.amount === null ? null : exactText(figure),
      unit: figure.unit.kind,
      reason: figure.reason,
    })),
  }));
  const body = {
    statement: document.id,
    name: document.name,
    scope: scope.code,
    currency: scope.currency.code,
    as_at: source.at.key,
    columns: table.columns.map(({ id, blockLabel, label, note, dates }) => ({
      ...{ id, label, note, dates },
      block: blockLabel,
    })),
    rows: rows.slice(0, misplacedFrom),
    // without the words that head them
    misplaced_rows: rows.slice(misplacedFrom + 1),
    coverage: sheet.coverage,
    profit: sheet.profit,
  };
  return `${JSON.stringify(body, null, 2)}\n`;
}
