import { evaluateStatement, exactFigure, formatFigure, type ColumnHead, type ShownUnit } from '@margin-lens/core';
import { subtitleOf } from '../statements/statement-texts';
import type { OpenedStatement } from '../statements/statements-service';
import { pdfTable, type PdfColumn } from './pdf-table';

const columnOf = ({ blockLabel, label, note, dates, flags, notation }: ColumnHead): PdfColumn => ({
  block: blockLabel,
  label,
  span: [dates || note, ...flags].filter(Boolean).join(' · '),
  notation: notation === 'actual' || notation === 'prior_year' ? notation : 'none',
});

/** A statement as a PDF document, as it stands on the sheet, with its proof below. */
export function statementPdf(opened: OpenedStatement, shown: ShownUnit, madeAt: Date): Promise<Buffer> {
  const table = evaluateStatement(opened.source, opened.evaluation);
  const { code, digits } = opened.entity.currency;
  const off = table.profit.filter(({ difference }) => difference !== 0);
  const { accounts, placedOnce } = table.coverage;
  return pdfTable({
    title: opened.document.name,
    subtitle: subtitleOf(opened, shown),
    labelHead: '',
    columns: table.columns.map(columnOf),
    rows: [...table.rows, ...table.misplacedRows].map(({ label, depth, style, cells }) => ({
      label,
      depth,
      style,
      cells: cells.map((figure) => ({ text: formatFigure(figure, shown), favour: figure.favour })),
    })),
    proof: [
      `${placedOnce} of ${accounts} accounts are placed once.`,
      off.length === 0
        ? 'The profit shown agrees with the trial balance.'
        : `The profit shown is off by ${exactFigure({ amount: off[0]!.difference, unit: { kind: 'currency', code, digits } })} against the trial balance.`,
    ],
    madeAt,
  });
}
