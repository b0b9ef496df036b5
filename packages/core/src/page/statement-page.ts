import { digitsOf } from '../currency/minor-units';
import { exactFigure, type ShownUnit } from '../figure/format-figure';
import { dayInWords } from '../period/period-name';
import { ADD_UP_MARK } from '../statement/add-up';
import { SERIES_BLOCKS } from '../statement/column-head';
import { doubtWords, isMarked, MARK_WORDS } from './cell-note';
import type { Page, PageBlock } from './page';
import type { RowOrder } from './row-order';
import { sheetTable, type Reading, type SheetTable, type StatementSheet } from './statement-sheet';

/** What money is read in. @example 'EUR thousand' */
export const moneyWords = (currency: string, unit: ShownUnit): string => `${currency}${UNIT_WORDS[unit]}`;

const UNIT_WORDS: Record<ShownUnit, string> = { 1: '', 1000: ' thousand', 1_000_000: ' million' };

/** The line under the title: whose figures, in what, narrowed to what, over which spans. */
export function subtitleOf(
  { presentation, scope, narrowed, columns }: StatementSheet,
  { on, unit, order }: Pick<Reading, 'on' | 'unit' | 'order'>,
): string {
  const by = columns.find(({ id }) => id === order?.column);
  const shown = columns.filter(({ hideFromExport }) => on !== 'paper' || !hideFromExport);
  return [
    presentation.subtitle,
    scope.name,
    moneyWords(scope.currency, unit),
    ...narrowed,
    [...new Set(shown.map(({ blockLabel, spanLabel = blockLabel }) => spanLabel))].filter(isOfTime).join(' and '),
    by ? orderWords(by, order!) : '',
    presentation.rounding === 'note' ? 'rounded figures may not add up' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}

/** @example 'by Change % of April – August 2026, largest first' */
const orderWords = ({ label, note, blockLabel }: StatementSheet['columns'][number], { first }: RowOrder): string =>
  `by ${[label, note].filter(Boolean).join(' ')}${blockLabel ? ` of ${blockLabel}` : ''}, ${first} first`;

const SERIES: readonly string[] = Object.values(SERIES_BLOCKS);
const isOfTime = (blockLabel: string) => blockLabel !== '' && !SERIES.includes(blockLabel);

/** A statement as a page: its table, then what its marks mean and what proves it. */
export function statementPage(sheet: StatementSheet, reading: Reading, table = sheetTable(sheet, reading)): Page {
  return {
    title: sheet.name,
    subtitle: subtitleOf(sheet, reading),
    asAt: `as at ${dayInWords(sheet.asAt.end)}`,
    header: sheet.presentation.header ?? '',
    footer: sheet.presentation.footer ?? '',
    blocks: [
      { kind: 'table', table },
      ...[...markWords(table), ...proofWords(sheet)].map((text): PageBlock => ({ kind: 'text', text })),
    ],
  };
}

/** What the marks on the page mean, as far as they stand there. */
function markWords({ rows }: SheetTable): string[] {
  const cells = rows.flatMap((row) => row.cells);
  return [
    ...(cells.some(({ figure }) => isMarked(figure)) ? [MARK_WORDS] : []),
    ...doubtWords(cells.map(({ figure }) => figure)),
    ...(cells.some(({ text }) => text.includes(ADD_UP_MARK))
      ? [`${ADD_UP_MARK} Rounded so that the figures add up.`]
      : []),
  ];
}

function proofWords({ coverage, profit, scope }: StatementSheet): string[] {
  const off = profit.find(({ difference }) => difference !== 0);
  const unit = { kind: 'currency', code: scope.currency, digits: digitsOf(scope.currency) } as const;
  return [
    ...(coverage.accounts === 0 ? [] : [`${coverage.placedOnce} of ${coverage.accounts} accounts are placed once.`]),
    ...(profit.length === 0
      ? []
      : off
        ? [`The profit shown is off by ${exactFigure({ amount: off.difference, unit })} against the trial balance.`]
        : ['The profit shown agrees with the trial balance.']),
  ];
}
