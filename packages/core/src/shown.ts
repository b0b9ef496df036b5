// What shows figures, days and periods: all that a screen needs which only reads, without formulas and layouts, so that
// the first view of the application stays small. `index.ts` exports it too.
export { digitsOf, minorDigits } from './currency/minor-units';
export { type Figure, RATIO, stepsPerUnit, type Unit } from './figure/figure';
export { exactFigure, type FigureLook, formatFigure, type ShownUnit } from './figure/format-figure';
export { readNumber } from './foreign/number-format';
export { missingInWords } from './figure/missing-words';
export { parseAmount } from './money/amount';
export { dayInWords, dayOfYear, dayShort, fiscalYearName, periodName, periodShort } from './period/period-name';
export { ELIMINATION_REASON_WORDS, ELIMINATION_WORDS } from './words/elimination-words';
export { inWords, sentenceCase, withinSentence } from './words/in-words';
export {
  countText,
  decimalSign,
  NUMBER_STYLES,
  readablePlain,
  readStyleBy,
  typedPlain,
  USUAL_STYLE,
  type WritingStyle,
  writingStyle,
} from './words/writing-style';
export { doubtWords, noteOf } from './page/cell-note';
export { CHART_COLUMNS } from './page/chart-columns';
export { type Block, blockText, copyText, ownReadings } from './page/copy-text';
export type { Page, PageBlock, PageCell, PageColumn, PageRow, PageTable } from './page/page';
export { isGone, type Piece, piecesOf, quotedText, remarkWords } from './page/remark-words';
export { BASIS_WORDS, COLUMN_BASES } from './books/books-selection';
export { AGE, ageBands, type Ages, readAges, USUAL_AGES } from './books/age-of-items';
export type { Axis, Breakdown, ChartKind } from './layout/breakdown-document';
export {
  changeAxis,
  newAxis,
  openLevels,
  putAxis,
  removeAxis,
  replaceAxis,
  setAges,
  setDemand,
  type Side,
  swapAxes,
  turnOpen,
} from './layout/edit-breakdown';
export { onlyThese } from './layout/only-these';
export { moneyWords, statementPage, subtitleOf } from './page/statement-page';
export { allRows, type SheetRow, type SheetTable, sheetTable } from './page/statement-sheet';
export { cellsOfText, tabText } from './page/tab-text';
export {
  TRIAL_BALANCE_VIEWS,
  trialBalancePage,
  trialBalanceProof,
  type TrialBalanceViewName,
} from './page/trial-balance-page';
export { PAPER } from './page/paper-colours';
export { PX } from './sheets/sheet';
export { SERIES_TOTALS, type SeriesTotals } from './layout/series-totals';
export { columnBlocks } from './page/column-blocks';
export { readRowOrder, type RowOrder, writeRowOrder } from './page/row-order';
export { type NamedCondition } from './cube/dimension-condition';
export { readConditions, writeConditions } from './cube/written-conditions';
export { chosenBy } from './layout/reader-choice';
