import {
  breakdownOption,
  chartedValues,
  chartOf,
  dayShort,
  factsOf,
  heightOf,
  itemWords,
  monthBlocks,
  outlineOf,
  readItem,
  readPer,
  remarkWords,
  sheetTable,
  statementPage,
  withFormulas,
  type Facts,
  type Page,
  type PageBlock,
  type RowOrder,
  type SheetTable,
  type ShownUnit,
} from '@margin-lens/core';
import type { LiveRemark, StatementView } from '@margin-lens/contract';
import { appError } from '../../base/app-error';
import { expected } from '../../base/words';
import { viewOf, type OpenedStatement } from '../statements/open-statement';

/** How a statement stands on paper and in files. */
export interface OnPaper {
  unit: ShownUnit;
  /** Remarks that go along, below the table. */
  remarks?: readonly LiveRemark[];
  /** The row whose months go along as charts, above the table; the columns are then those of charts. */
  chart?: string | undefined;
  order?: RowOrder | undefined;
  /** Has cells follow from others, and figures of a breakdown stand in a flat table, too: for workbooks. */
  isLive?: boolean;
}

/** A statement with its table, as it is written to files. */
export interface StatementPaper {
  sheet: StatementView;
  table: SheetTable;
  page: Page;
}

/**
 * The page of a statement on paper: charts, table, what proves it, and remarks.
 * @throws SRV_VALUE_UNKNOWN for a chart of a row that is not on the page
 */
export function statementPaper(
  opened: OpenedStatement,
  { unit, remarks = [], chart, order, isLive }: OnPaper,
): StatementPaper {
  const sheet = viewOf(opened);
  const reading = { on: 'paper', unit, order } as const;
  const table = sheetTable(sheet, reading);
  const page = statementPage(sheet, reading, isLive ? withFormulas(table, opened.evaluation) : table);
  const blocks = [
    ...(chart === undefined ? [] : rowCharts(sheet, chart, unit)),
    ...(opened.breakdown?.definition.shows ? breakdownCharts(opened, sheet, unit) : []),
    ...page.blocks,
    ...remarkBlocks(remarks, table, unit),
  ];
  const facts = isLive ? factsIn(opened, table) : undefined;
  return { sheet, table, page: { ...page, blocks, ...(facts && { facts }) } };
}

/** The months of a row as charts. @throws SRV_VALUE_UNKNOWN where it is not on the page */
export function rowCharts(sheet: StatementView, row: string, unit: ShownUnit): PageBlock[] {
  const charts = monthBlocks(sheet, row, unit);
  if (charts) return charts;
  const known = sheetTable(sheet, { on: 'paper', unit }).rows.flatMap(({ id, kind }) =>
    kind === 'figures' ? [id] : [],
  );
  throw appError('SRV_VALUE_UNKNOWN', { what: expected.drawnRow, text: row, known: known.join(', ') });
}

/** What a breakdown is drawn as. */
export function breakdownCharts({ breakdown }: OpenedStatement, sheet: StatementView, unit: ShownUnit): PageBlock[] {
  const values = chartedValues(sheet);
  if (!values) return [];
  const kind = chartOf(values, breakdown?.definition.chart);
  const option = breakdownOption(kind, values, unit);
  const drawn = { option, height: heightOf(kind, values), readPer: readPer(values.unit, unit) };
  return [{ kind: 'chart', title: '', words: '', ...drawn }];
}

/** The figures of a breakdown as a flat table. */
function factsIn({ breakdown, source }: OpenedStatement, table: SheetTable): Facts | undefined {
  if (!breakdown) return undefined;
  const { definition, fields, placeOf } = breakdown;
  const labels = new Map(outlineOf(source.rowLayout.rows).map(({ row }) => [row.id, row.label]));
  return factsOf({
    ...{ table, breakdown: definition, placeOf },
    fieldName: (by) => fields.find((field) => field.by === by)?.name ?? by,
    rowName: (item) => {
      const { row, measure } = readItem(item);
      return itemWords(labels.get(row) ?? row, measure);
    },
  });
}

/** A remark as it is read on paper, with who wrote it when. */
export const remarkOnPaper = (remark: LiveRemark, unit: ShownUnit): string =>
  `${remarkWords(remark, unit)} (${remark.author}, ${dayShort(remark.writtenAt.slice(0, 10))})`;

/** Remarks below the table, in the order of its rows; those of rows that are not on the page stay behind. */
function remarkBlocks(remarks: readonly LiveRemark[], { rows, columns }: SheetTable, unit: ShownUnit): PageBlock[] {
  const lines = [{ id: '', label: '' }, ...rows].flatMap(({ id, label }) =>
    remarks
      .filter(({ row }) => row === id)
      .map((remark) => {
        const column = columns.find((each) => each.id === remark.column)?.label;
        const place = [label, column].filter(Boolean).join(', ');
        return `${place ? `${place}: ` : ''}${remarkOnPaper(remark, unit)}`;
      }),
  );
  if (lines.length === 0) return [];
  return [{ kind: 'heading', text: 'Remarks' }, ...lines.map((text): PageBlock => ({ kind: 'text', text }))];
}
