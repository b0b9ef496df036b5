import {
  addUpTexts,
  evaluateStatement,
  exactFigure,
  formatFigure,
  lookOf,
  type ColumnHead,
  type ShownUnit,
} from '@margin-lens/core';
import { subtitleOf } from './statement-texts';
import type { OpenedStatement } from './open-statement';
import { exportedParts } from './exported-parts';
import { fileApart } from '../../base/work-apart';
import type { PdfColumn, PdfTable } from '../pdf/pdf-table';

const columnOf = ({ blockLabel, label, note, dates, flags, notation }: ColumnHead): PdfColumn => ({
  block: blockLabel,
  label,
  span: [dates || note, ...flags].filter(Boolean).join(' · '),
  notation: notation === 'actual' || notation === 'prior_year' ? notation : 'none',
});

/** A statement as a PDF document, as it stands on the sheet, with its proof below. */
export function statementPdf(opened: OpenedStatement, shown: ShownUnit, madeAt: Date): Promise<Buffer> {
  const table = evaluateStatement(opened.source, opened.evaluation);
  const { code, digits } = opened.scope.currency;
  const off = table.profit.filter(({ difference }) => difference !== 0);
  const { accounts, placedOnce } = table.coverage;
  const { presentation = {} } = opened.document;
  const lookAt = (decimals: number | null) =>
    decimals === null ? lookOf(presentation) : { ...lookOf(presentation), decimals };
  const parts = exportedParts(table, opened.evaluation.input.rows.misplacedFrom, presentation);
  const shownRows = parts.rows.map(({ row }) => row);
  const added =
    presentation.rounding === 'add_up'
      ? addUpTexts(shownRows, table.columns.length, shown, lookOf(presentation))
      : undefined;
  const document: PdfTable = {
    title: opened.document.name,
    subtitle: [presentation.header, presentation.subtitle, subtitleOf(opened, shown)].filter(Boolean).join(' · '),
    labelHead: '',
    columns: parts.columns.map((at) => columnOf(table.columns[at]!)),
    rows: shownRows.map(({ id, label, depth, style, cells, decimals }, row) => ({
      label,
      startsPage: presentation.pageBreaks?.includes(id) ?? false,
      depth,
      style,
      cells: cells.flatMap((figure, column) => {
        if (table.columns[column]!.hideFromExport) return [];
        const text = added?.get(`${row}.${column}`) ?? formatFigure(figure, shown, lookAt(decimals));
        return [{ text, favour: figure.favour }];
      }),
    })),
    proof: [
      ...(presentation.footer ? [presentation.footer] : []),
      ...(presentation.rounding === 'note' ? ['Rounded figures may not add up to their totals.'] : []),
      ...(accounts === 0 ? [] : [`${placedOnce} of ${accounts} accounts are placed once.`]),
      table.profit.length === 0
        ? ''
        : off.length === 0
          ? 'The profit shown agrees with the trial balance.'
          : `The profit shown is off by ${exactFigure({ amount: off[0]!.difference, unit: { kind: 'currency', code, digits } })} against the trial balance.`,
    ].filter(Boolean),
    madeAt,
  };
  return fileApart('pdfTable', document);
}
