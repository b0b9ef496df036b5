import type { Quote, RemarkText } from '@margin-lens/contract';
import {
  EXCEPTION_SPANS,
  exceptionColumns,
  exceptionColumnsId,
  nodeOfAddress,
  STANDARD_COLUMNS,
  type ColumnLayout,
  type Figure,
  type FiscalPeriod,
  type Scope,
} from '@margin-lens/core';
import { AppError } from '../../base/app-error';
import { comparableRange } from '../statements/comparable-range';
import { openDocuments, type OpenedStatement } from '../statements/open-statement';
import type { Snapshot } from '../workspace/snapshot';

/** Reads the figures that remarks quote, as they are now; each statement that they stand in is opened once. */
export class QuoteReader {
  private readonly opened = new Map<string, Promise<OpenedStatement | undefined>>();

  constructor(
    private readonly snapshot: Snapshot,
    private readonly scope: Scope,
    private readonly at: FiscalPeriod,
  ) {}

  /** The figures of a remark's quotes, in their order; null where the cell is no longer there. */
  async figures({ statement, quotes }: Pick<RemarkText, 'statement' | 'quotes'>): Promise<(Figure | null)[]> {
    const found: (Figure | null)[] = [];
    for (const { cell, context } of quotes) {
      const opened = await this.open(statement, context);
      const node = opened && nodeOfAddress(opened.evaluation, `cell~${cell}`);
      found.push(node ? opened.evaluation.figure(node) : null);
    }
    return found;
  }

  private open(statement: string, context: Quote['context']): Promise<OpenedStatement | undefined> {
    const key = JSON.stringify([statement, context]);
    const known = this.opened.get(key);
    if (known) return known;
    const made = this.read(statement, context);
    this.opened.set(key, made);
    return made;
  }

  private async read(id: string, { columns, ...context }: Quote['context']): Promise<OpenedStatement | undefined> {
    const { model } = this.snapshot;
    const document = model.pages.find((each) => each.id === id);
    const rowLayout = document && model.documentsOf('row_layout').find((each) => each.id === document.rows);
    const columnLayout = await this.columnsOf(columns, context.version);
    if (!rowLayout || !columnLayout) return undefined;
    try {
      const where = { scope: this.scope.code, as_at: this.at.key };
      return await openDocuments(this.snapshot, { document, rowLayout, columnLayout }, { ...context, ...where });
    } catch (error) {
      if (error instanceof AppError) return undefined;
      throw error;
    }
  }

  private async columnsOf(id: string, version: string | undefined): Promise<ColumnLayout | undefined> {
    const span = EXCEPTION_SPANS.find((each) => exceptionColumnsId(each) === id);
    if (span) {
      const range = await comparableRange(this.snapshot, this.scope, this.at, span, version);
      return range && exceptionColumns(this.scope.calendar.calendar, span, range);
    }
    return [...this.snapshot.model.documentsOf('column_layout'), ...STANDARD_COLUMNS].find((each) => each.id === id);
  }
}
