import { exactText, type Page, type RowOrder, type ShownUnit } from '@margin-lens/core';
import type { LiveRemark } from '@margin-lens/contract';
import type { ExportFormat } from '../../base/export-format';
import { pageFile } from '../../page/page-file';
import type { OpenedStatement } from '../statements/open-statement';
import { fileNameOf } from '../statements/statement-texts';
import { statementPaper, type StatementPaper } from './statement-paper';

export interface StatementFile {
  format: ExportFormat;
  /** What money is read in; that of the statement where it is left out. */
  unit?: number | undefined;
  /** Those that go along. */
  remarks: readonly LiveRemark[];
  /** The row whose months go along as charts; the columns are then those of charts. */
  chart?: string | undefined;
  order?: RowOrder | undefined;
}

/** What a file of a statement is written from. */
export type FileParts = { fileName: string } & (
  { format: 'json'; text: string } | { format: Exclude<ExportFormat, 'json'>; page: Page; unit: ShownUnit }
);

/**
 * What a statement as a file is: its page on paper. JSON is the same page for programs, with coverage and proof.
 * @throws SRV_VALUE_UNKNOWN for a chart of a row that is not on the page
 */
export function filePartsOf(
  opened: OpenedStatement,
  { format, unit: asked = opened.document.unit, ...more }: StatementFile,
): FileParts {
  const fileName = fileNameOf(opened, format);
  const unit = asked as ShownUnit;
  const paper = statementPaper(opened, { ...more, unit, isLive: format === 'xlsx' });
  if (format === 'json') return { fileName, format, text: statementJson(opened, paper) };
  return { fileName, format, page: paper.page, unit };
}

/** Writes the file. */
export const fileBytes = async (parts: FileParts): Promise<Buffer | string> =>
  parts.format === 'json' ? parts.text : pageFile(parts.page, parts.format, parts.unit);

function statementJson({ document, scope, source }: OpenedStatement, { sheet, table }: StatementPaper): string {
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
