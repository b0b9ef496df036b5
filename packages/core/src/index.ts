export {
  type AccountSelector,
  type AccountSet,
  membersOf,
  readSelector,
  selectorText,
  selects,
} from './account/account-set';
export {
  type Account,
  accountOf,
  accountUnit,
  type Direction,
  isFlow,
  isProfitOrLoss,
  naturalOrientation,
  type Nature,
  NATURES,
} from './account/nature';
export {
  type Classification,
  proposeClassification,
  type ProposedClassification,
} from './account/propose-classification';
export { checkGroups } from './intake/check-groups';
export { checkPeriodMap } from './intake/check-period-map';
export { type CodeRule, LocalCodes } from './account/local-codes';
export { BOOKS_CHECKS, type BooksCheck, type BooksFinding } from './books-check/books-finding';
export { checkBalances, CHECKS_OF_HISTORY, HISTORY_NEEDED } from './books-check/check-balances';
export { SEEN_FILE, seenId, type SeenMark, SeenMarkSchema } from './books-check/seen-mark';
export {
  type BalanceEvidence,
  BalanceEvidenceSchema,
  EVIDENCE_FILE,
  type AttachedFile,
  AttachedFileSchema,
  evidenceId,
  type EvidenceSource,
  type KeptEvidence,
  KeptEvidenceSchema,
} from './closing/balance-evidence';
export {
  CLOSING_FILE,
  ClosingFileSchema,
  type ClosingFile,
  type ClosingList,
  ClosingListSchema,
  type ClosingTask,
  ClosingTaskSchema,
  type ClosingTick,
  dueOn,
  NO_CLOSING_LIST,
  tickId,
} from './closing/closing-list';
export {
  BALANCE_STATES,
  balanceOf,
  isOfBalanceSheet,
  isOpenBalance,
  type ProvedBalance,
  proveBalances,
} from './closing/prove-balances';
export { type EliminationGap } from './books/elimination-frame';
export { ELIMINATION_KINDS, ELIMINATION_REASONS } from './books/elimination-term';
export { accountsTyped } from './account/accounts-typed';
export { Books } from './books/books';
export { sourceAddress } from './intake/source-address';
export { type PostingsIn } from './books/postings-in';
export { completeness } from './books/completeness';
export { spreadEffect } from './books/spread-effect';
export { KeptBooks } from './books/kept-books';
export { type DatedAmount, DatedAmounts } from './books/dated-amounts';
export { type Sight } from './books/sight';
export { type PartnerSide, proposeRules } from './books/propose-rules';
export { differenceAccountOf, takenByHand } from './books/pair-difference';
export { pairPage, type PairStatement } from './page/pair-page';
export { type DocumentMatch, matchDocuments, type PairLine } from './books/match-documents';
export { minorOf } from './books/purchases';
export { type CodeRange, codeRanges, isInRange } from './account/code-ranges';
export { translator } from './currency/translator';
export { netOf, type RowAmounts } from './books/book-rows';
export { spanName } from './period/period-name';
export { soleEntity } from './scope/scope';
export { ACTUAL_ID, BASIS_CODES, frozenAt } from './books/version-rows';
export { BROUGHT_FORWARD, Combinations } from './cube/combinations';
export { shareEvent } from './scope/share-events';
export type { ConsolidationFacts } from './scope/consolidated';
export type {
  AcquiredItem,
  AssetLayer,
  AssetTransfer,
  AssociateResult,
  Disposal,
  EliminationLine,
  HistoricalAmount,
  Impairment,
  StandingRule,
  StockHeld,
} from './scope/group-records';
export { Cube, type AccountSum } from './cube/cube';
export { conditionsTest, type DimensionCondition } from './cube/dimension-condition';
export { DatedTrees, type DatedValue } from './account/dated-trees';
export { attributesIn, type ValueAttribute } from './account/value-attributes';
export { factsOf, type Facts } from './page/facts';
export { LINE_COLUMNS, lineColumns, type LineColumns, type StoredLine } from './cube/line-columns';
export { type LineDetail, LINE_FIELDS, type LineSource, POSTING_DAY, readsLines } from './books/line-detail';
export { AGE } from './books/age-of-items';
export { type AllocationKey, checkAllocation, entitiesNamed, isOverEntities } from './books/allocation';
export { type AllocationDocument, AllocationDocumentSchema } from './layout/allocation-document';
export { checkCompletion, type Completion, Completions, holdsText } from './books/completion';
export { type CompletionDocument, CompletionDocumentSchema } from './layout/completion-document';
export { isReported } from './books/book-rows';
export { completionEffect } from './books/completion-effect';
export { type CompletionSource, isReadIn, type LinesRead, type TextMatch } from './books/completed-balances';
export { type Counted } from './books/counted';
export { type DetailedLines } from './books/detailed-balances';
export { attributeName, detailOf, meansVersions } from './breakdown/fields';
export { numbersRead } from './breakdown/accounts-read';
export { allRuns, blankSegment, combinationsIn, debitsOf, runsOf, type Segment, SEGMENT_COLUMNS } from './cube/segment';
export { mergeRuns, SegmentBuilder } from './cube/segment-builder';
export { FIRST_GENERATION, type Generation, movedTo, type Part, PARTS, partsKey } from './cube/generation';
export { type Missing, QUANTITY_DIGITS, type UndefinedReason } from './figure/figure';
export { targetOfColumn, withTarget } from './foreign/column-targets';
export { readDate } from './foreign/date-format';
export { delimiterOf, DELIMITERS } from './foreign/delimiter';
export { type Additions, AdditionsSchema, additionTables, NOTHING_NEW, stillNew } from './foreign/additions';
export { type ForeignContext, foreignConverter } from './foreign/foreign-converter';
export { nameKey } from './foreign/row-converter';
export { type StandBefore } from './foreign/trial-balance-converter';
export { keepSaid } from './foreign/keep-said';
export { type Encoding, ENCODINGS, type Mapping, MappingSchema, missingTargets, MONTH_PREFIX } from './foreign/mapping';
export { decimalSignOf } from './foreign/number-format';
export {
  type ForeignCell,
  type ForeignQuestion,
  type KnownCodes,
  plainName,
  proposeMapping,
} from './foreign/propose-mapping';
export { RowConverter } from './foreign/row-converter';
export {
  STARTING_ENTITY,
  type StartingBooks,
  StartingBooksSchema,
  startingSettings,
  startingTables,
} from './foreign/starting-books';
export { fileOf, hasMonthColumns, type Purpose, PURPOSES, targetsOf } from './foreign/targets';

export { FORMULA_FUNCTIONS } from './formula/formula';
export { type NameSpace, storeFormula, typedFormula } from './formula/formula-names';

export { type Group, scopeOfGroup, scopeTree } from './scope/group-scope';
export { type Scope, type ScopeEntity, type ScopeMember, scopeOfEntity, type StoredPeriods } from './scope/scope';
export { type Rate, RATE_TYPES, RateTable, type RateType } from './currency/rate-table';
export { ratesNeeded } from './books/rates-needed';
export { doubtOf } from './currency/rate-doubt';
export { translationProof } from './books/translation-proof';
export { movementTieOut } from './tie-out/movement-tie-out';
export { consolidationTieOuts } from './tie-out/consolidation-tie-outs';
export { translationTieOuts } from './tie-out/translation-tie-outs';
export { decimalText, type Fraction, fractionOf, quotientOfSum } from './money/fraction';
export { whyByCurrency } from './variance/why-currency';
export { sharesOn } from './account/share-of-day';
export { StatedAmounts } from './books/stated-amounts';
export { checkAdjustment, type CheckedAdjustment, type CheckedLine } from './intake/check-adjustment';
export { checkOwnership } from './intake/check-ownership';
export { checkRates } from './intake/check-rates';
export { TableChecker, type TableRow } from './intake/check-table';
export { describePackage, DESCRIPTOR_FILE, type WrittenFile } from './intake/data-package';
export { type FigureRow, FigureRowReader } from './intake/figure-row';
export { BASES, JOURNAL_KINDS, type JournalRow, JournalRowReader } from './intake/journal-row';
export { LONGEST_TEXT } from './intake/longest-text';
export {
  type PostingAccount,
  PostingCalendar,
  accountOfLine,
  type AccountOfLine,
  type PostingContext,
  type PostingEntity,
} from './intake/posting-context';
export {
  ATTACHMENT_FOLDER,
  DIMENSION_PREFIX,
  FIGURE_COLUMNS,
  FIGURES_FILE,
  JOURNAL_COLUMNS,
  JOURNALS_FILE,
  RESOURCES,
} from './intake/resources';
export { type ResourceSpec } from './intake/resource-spec';
export { groupStructure, type HeldEntity, type Holding, othersOf, percentOf, shareOf } from './scope/group-structure';
export { GROUP_RESOURCES } from './intake/group-resources';
export { checkGroupTables, type GroupRow } from './intake/check-group-tables';
export { type Partner } from './account/partner';
export { ROLES, SINGLE_ROLES } from './account/role';
export { type WorkingDays, type WorkspaceSettings, WorkspaceSettingsSchema } from './intake/workspace-settings';
export { ISSUE_CODES, type IssueCode } from './issue/codes';
export { CoreError, describeIssue, issue, type Issue, IssueList } from './issue/issue';
export {
  type Anchor,
  type Column,
  type ColumnKind,
  type ColumnLayout,
  ColumnLayoutSchema,
  SERIES_BY,
} from './layout/column-layout';
export {
  changeColumns,
  copiesOfColumns,
  insertColumns,
  moveColumns,
  nudgeColumns,
  removeColumns,
} from './layout/edit-columns';
export {
  changeRows,
  chosenRows,
  copiesOf,
  freshId,
  groupRows,
  indentRows,
  insertRows,
  moveRows,
  nudgeRows,
  outdentRows,
  readersOfRows,
  removeRows,
  rowIds,
  splitRow,
} from './layout/edit-rows';
export { documentChanges, mergeDocuments } from './layout/layout-difference';
export { displaceAccount, likelyPlace, placeAccount, placeAsLikely, rowsWithAccount } from './layout/place-account';
export { type ProposedPurpose, proposeRows } from './layout/propose-rows';
export {
  LAYOUT_PURPOSES,
  type LayoutPurpose,
  outlineOf,
  type Row,
  ROW_STYLES,
  ROW_UNITS,
  type RowKind,
  type RowLayout,
  RowLayoutSchema,
  RowSchema,
  type RowReading,
} from './layout/row-layout';
export { accountSetText, rowsAsText, rowsFromText } from './layout/rows-as-text';
export { totalsOf, withTotals } from './layout/series-totals';
export { STANDARD_COLUMNS } from './layout/standard-columns';
export {
  type Document,
  DOCUMENT_FOLDERS,
  DOCUMENT_KINDS,
  type DocumentKind,
  DocumentSchema,
  type FiguresPage,
  isFiguresPage,
  isShelved,
} from './layout/document';
export { proveBreakdown } from './breakdown/prove-breakdown';
export { linesOfCell } from './statement/lines-of-cell';
export { toldApart } from './breakdown/tell-apart';
export { type BreakdownSource } from './breakdown/breakdown-frame';
export { openBreakdown, type OpenedBreakdown, partsOfCell } from './breakdown/open-breakdown';
export {
  type BreakdownDocument,
  BreakdownDocumentSchema,
  BreakdownSchema,
  type Filter,
} from './layout/breakdown-document';
export {
  type Presentation,
  PresentationSchema,
  type ReaderChoices,
  ReaderChoicesSchema,
  type StatementDocument,
  StatementDocumentSchema,
} from './layout/statement-document';
export { type DocumentStep, undoChange } from './layout/undo-change';
export { type Balances } from './books/balances';
export { CashBalances, type CashSource } from './books/cash-balances';
export { deriveCash, UNDERIVED, type DerivedCash, type LineOfDocuments, type Underived } from './books/derive-cash';
export { proveCash } from './books/prove-cash';
export { sumMovements } from './books/sum-movements';
export {
  ACTUAL,
  AS_POSTED,
  type ColumnBasis,
  BEFORE_ELIMINATIONS,
  type BooksSelection,
  COMPARED,
  NEWEST_FORECAST,
  ORGANISED,
  type Organised,
  OWN,
  WHOLE_BOOKS,
} from './books/books-selection';
export { type CashFlowRule } from './books/cash-flow-rule';
export {
  attributesOf,
  combinationOf,
  COMBINATION_SEPARATOR,
  localValuesOf,
  localValuesText,
  NO_VALUES,
} from './account/combination';
export { type LedgerSlice, openingAt, slot } from './books/ledger-slice';
export {
  closingColumn,
  monthColumns,
  profitOf,
  spanColumns,
  type TrialBalanceColumn,
  trialBalanceTable,
} from './books/trial-balance-table';
export { allocate } from './money/allocate';
export { formatMinor, LARGEST_AMOUNT, MAX_MINOR } from './money/amount';

export { OUTLOOK_METHODS, type OutlookMethod, type OutlookResult } from './outlook/outlook';
export { finestRows, type PostedMonths, type RowForecast } from './version/forecast-rows';
export { type CalendarRule, CalendarRuleSchema, periodsOfRule, ruleOfCalendar } from './period/calendar-rule';
export { checkCalendar } from './period/check-calendar';
export {
  buildCalendar,
  daysBetween,
  type FiscalCalendar,
  type FiscalPeriod,
  parsePeriodKey,
  periodKey,
  periodOfAsAt,
  periodOfKey,
  type PeriodRow,
  shiftMonths,
} from './period/fiscal-calendar';
export { addDays, dayFrom, monthsBetween, weekdayOf } from './period/iso-day';

export { SPAN_KINDS, spanOf, type Span } from './period/span';
export { WEEK_PATTERNS } from './period/week-calendar';
export { countDays, daysOff, workingDaysOf } from './period/working-days';
export { matchesPhrases, searchPhrases } from './search/search-words';
export { actualUpTo } from './books/actual-up-to';
export { HEADING_WORDS } from './statement/column-head';
export { compileRows } from './statement/compile-rows';
export { type CompiledRow, hasFigures } from './statement/compiled-row';
export { Evaluation } from './statement/evaluation';
export { nodeOfAddress } from './statement/node-address';
export { layoutsRead } from './statement/row-places';
export {
  evaluateStatement,
  headsOf,
  openStatement,
  type StatementSource,
  type StatementTable,
} from './statement/statement-table';
export { type Expansion, type Surroundings } from './statement/surroundings';
export { type PostingsOf, traceLevel } from './statement/trace';
export { type TraceNode } from './statement/trace-node';
export { layoutTieOuts, openProof, tieOutsAt } from './tie-out/layout-tie-outs';
export { TIE_OUT_UNITS, TIE_OUTS, tieOut, type TieOut } from './tie-out/tie-out';
export { enterAmount } from './version/enter-amount';
export { profitEffect } from './version/profit-effect';
export { newestFirst } from './version/newest-first';
export { type Cause, findDifferences, type RoundingVerdict } from './version/find-differences';
export { type Phasing, PHASINGS } from './version/phase';

export { RUN_RATES, type RunRate } from './version/run-rate';

export { type PlanWarning, watchPlan, watchTotals } from './version/watch-plan';
export { comparedRows } from './version/compared-rows';
export {
  applyChanges,
  editTotal,
  type FigureChange,
  inverseChanges,
  mergeChanges,
  rowFigures,
  type SheetFrame,
} from './version/edit-figures';
export { type PlanTemplate, PlanTemplateSchema } from './layout/plan-template-document';
export { likelyOneOffs, type OneOff, withoutOneOffs } from './version/one-offs';
export { emptyBaseMonths, type PlanAction, type SeedSource, topRows } from './version/plan-action';
export { redraw } from './version/redraw';
export { type LoanPart, type Series } from './version/series';
export { linesByAccount } from './version/lines-by-account';
export {
  favourOfChange,
  type FigureLine,
  type FigureLines,
  haveSameRows,
  lineKey,
  linesOf,
  openingsOf,
  type Openings,
  partsOfKey,
  type SheetRow,
  valuesAsked,
} from './version/planning-sheet';
export { type ExchangedRow, exchangedRows, SHEET_KEYS, SHEET_NAME, sheetDifference } from './version/sheet-exchange';
export { planDifference, plansBalanceSheet } from './version/plan-balance';
export type { PlanResult } from './version/plan-result';
export {
  type ForecastQuestion,
  lineChange,
  type PlanAnswer,
  type PlanQuestion,
  SheetEvaluator,
  type TotalsQuestion,
} from './version/sheet-evaluator';
export {
  type SheetColumn,
  rowsOfSheet,
  sheetColumns,
  type SheetView,
  type SheetSide,
  type SheetSource,
} from './version/sheet-figures';
export { type Bridge, bridgeOf, type BridgeTerm, REST } from './variance/bridge';
export {
  type Explanation,
  EXPLANATION_KINDS,
  type ExplanationKind,
  ExplanationSchema,
  isInSpan,
  lastOfEach,
  returnOf,
  RETURNS,
  underlyingOf,
  varianceByKind,
} from './variance/explained';

export {
  exceptionColumns,
  exceptionRange,
  exceptionColumnsId,
  type ExceptionRange,
  type ExceptionRow,
  type ExceptionTable,
  exceptionsOf,
  limitsByRow,
  limitsIn,
} from './variance/exceptions';
export { whyByInputs } from './variance/why-inputs';

export type { DimensionTree } from './account/dimension-tree';
export type { Materiality } from './layout/materiality';
export { type Change, changeOf, whyByAccount } from './variance/why';
export { whyByRow } from './variance/why-rows';
export { whyByMember } from './variance/why-members';
export { incomeAndOther, type VolumeSide, type VolumeValue, whyByVolume, type WhyVolume } from './variance/why-volume';
export { exactText, numberOf } from './page/cell-value';
export { drawnAs, NOTATIONS } from './page/chart-notation';
export { type CellPlace, type LiveFormula } from './page/live-formula';
export { withFormulas } from './page/with-formulas';
export * from './drawn';
export * from './shown';
export { type ItemMeasure, itemOf, itemsInWords, itemWords, readItem } from './layout/item-measure';
export { rowsOf, turnItem, turnItems, turnMeasure } from './layout/edit-items';
export { boundOf } from './page/pack-bound';
export { withShared } from './layout/shared-pages';
export { fitTable, GAP as COLUMN_GAP } from './sheets/fit-table';
export { type LaidSheets, laySheets, type PaperPage } from './sheets/lay-sheets';
export {
  type Colour,
  type Mark,
  marksOfParts,
  type Measure,
  type PaperFont,
  type Sheet,
  type SheetPart,
} from './sheets/sheet';
export { EXCEPTION_SPANS, type ExceptionSpan } from './period/span';
export { type Quote, QuoteSchema } from './layout/quote';
export { type TextBody } from './layout/text-body';
export {
  type PackDocument,
  PackDocumentSchema,
  type PackPage,
  type PackPageKind,
  type PageDiffers,
} from './layout/pack-document';
export { balanceBlocks } from './page/balances-page';
export { figureChanges, rowChanges } from './page/page-changes';
export { explainedBlocks } from './page/explained-page';
export { exceptionBlocks, type ExplainedRow } from './page/exceptions-page';
export { textBlocks } from './page/text-blocks';
export { shownDecimals } from './figure/format-figure';
export { type TextRun, type Tile } from './page/page';
export { onPaper } from './page/paper-colours';
export { type NativeChart, nativeCharts, type NativeLook, type NativeSeries } from './page/native-chart';
export { readPer } from './figure/format-figure';
export { decoded } from './words/decoded';
export { DATE_ORDERS, type DateOrder, DECIMAL_SIGNS, type DecimalSign } from './words/writing-style';
