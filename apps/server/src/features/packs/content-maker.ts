import type { ExceptionsQuery, LiveRemark, PackContext, StatementContext, StatementView } from '@margin-lens/contract';
import {
  CHART_COLUMNS,
  formatFigure,
  inWords,
  nodeOfAddress,
  periodOfAsAt,
  quotedText,
  readConditions,
  RATIO,
  shownDecimals,
  subtitleOf,
  textBlocks,
  type FiguresPage,
  type PackDocument,
  type PackPage,
  type PageBlock,
  type PageDiffers,
  type Scope,
  type FiscalPeriod,
  type ShownUnit,
  type Tile,
} from '@margin-lens/core';
import { appError, AppError } from '../../base/app-error';
import { packWords } from '../../base/words';
import { balancesContent, exceptionsContent, underlyingContent } from './explained-pages';
import type { Content } from './page-content';
import { pageContext } from './page-context';
import { QuoteReader } from '../remarks/quote-reader';
import { remarksView } from '../remarks/remarks-service';
import { breakdownCharts, rowCharts, statementPaper } from '../statement-file/statement-paper';
import { openKept, viewOf, type OpenedStatement } from '../statements/open-statement';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

type PageOf<K extends PackPage['kind']> = Extract<PackPage, { kind: K }>;

/** What a page shows, or why it cannot be made. */
export interface Tried {
  content: Content;
  problem: string;
}

/** A page of a pack, in what context the pack is read, and whether formulas follow. */
export interface PageAsked {
  pack: PackDocument;
  page: PackPage;
  context: PackContext;
  isLive: boolean;
}

/** What a page shows. @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN of its pack */
export const triedPage = (snapshot: Snapshot, _: string, { pack, page, context, isLive }: PageAsked): Promise<Tried> =>
  new ContentMaker(snapshot, pack, context, isLive).tried(page);

const versionsOf = ({ compared, forecast }: StatementView): string[] =>
  [compared, forecast].flatMap((version) => version?.code ?? []);

/** The first chart without its title, which heads the page. */
const untitled = ([first, ...others]: readonly PageBlock[]): PageBlock[] =>
  first ? [first.kind === 'chart' ? { ...first, title: '' } : first, ...others] : [];

/** Makes what pages of a pack show. */
class ContentMaker {
  private readonly scope: Scope;
  private readonly at: FiscalPeriod;

  constructor(
    private readonly snapshot: Snapshot,
    private readonly pack: PackDocument,
    private readonly context: PackContext,
    private readonly isLive: boolean,
  ) {
    this.scope = openScope(snapshot.filled, snapshot.viewer, context.scope, context.currency);
    this.at = openPeriod(this.scope, context.as_at);
  }

  async tried(page: PackPage): Promise<Tried> {
    try {
      return { content: await this.content(page), problem: '' };
    } catch (error) {
      if (!(error instanceof AppError)) throw error;
      const problem = [error.message, error.hint].filter(Boolean).join(' ');
      return { content: { blocks: [{ kind: 'paragraph', runs: [{ text: packWords.notMade(problem) }] }] }, problem };
    }
  }

  private content(page: PackPage): Content | Promise<Content> {
    switch (page.kind) {
      case 'cover':
        return this.cover(page);
      case 'contents':
        return { blocks: [] };
      case 'section':
        return {
          blocks: [{ kind: 'cover', title: page.title ?? packWords.kind.section, lines: page.says ? [page.says] : [] }],
        };
      case 'figures':
        return this.figures(page);
      case 'chart':
        return this.chart(page);
      case 'exceptions':
        return this.exceptions(page);
      case 'underlying':
        return this.underlying(page);
      case 'balances':
        return this.balances(page);
      case 'tiles':
        return this.tiles(page);
      case 'text':
        return this.text(page);
      case 'shared':
        throw appError('SRV_PACK_PAGE_UNKNOWN', { pack: page.pack, id: page.page || '…' });
    }
  }

  private cover({ title, lines = [] }: PageOf<'cover'>): Content {
    const { name } = this.scope;
    const said = [name, packWords.asAt(this.at), ...lines];
    return { title: this.pack.name, blocks: [{ kind: 'cover', title: title ?? this.pack.name, lines: said }] };
  }

  private async figures({ of, columns, remarks, differs }: PageOf<'figures'>): Promise<Content> {
    const { opened, unit } = await this.open(of, differs, columns);
    const going = remarks ? await this.remarksOf(opened) : [];
    const { page, sheet } = statementPaper(opened, { unit, remarks: going, isLive: this.isLive });
    const { title, subtitle, blocks, facts } = page;
    const misplaced = sheet.coverage.misplaced.length;
    const left = await this.leftOut(of, differs, columns);
    return {
      ...{
        title,
        subtitle: [subtitle, page.asAt].join(' · '),
        blocks: [...blocks, ...left],
        unit,
        ...(facts && { facts }),
      },
      ...{ open: misplaced > 0 ? [packWords.misplaced(misplaced)] : [], versions: versionsOf(sheet) },
    };
  }

  /** What filters leave out of a statement because it carries no value of their dimension, as a sentence each. */
  private async leftOut(of: string, differs: PageDiffers | undefined, columns?: string): Promise<PageBlock[]> {
    const { where } = this.contextOf(differs);
    const blocks: PageBlock[] = [];
    for (const { dimension, has } of readConditions(where)) {
      if (has !== 'in' && has !== 'any') continue;
      const { opened, unit } = await this.open(
        of,
        { ...differs, where: [{ dimension, has: 'none', values: [] }] },
        columns,
      );
      const { table } = statementPaper(opened, { unit });
      const parts = table.rows.flatMap(({ style, depth, label, cells }) => {
        const at = cells.findIndex(({ figure }) => figure.amount);
        const isSum = (style === 'result' || style === 'total') && depth === 0;
        return isSum && at >= 0 ? [`${label} ${cells[at]!.text} (${table.columns[at]!.label})`] : [];
      });
      if (parts.length > 0) blocks.push({ kind: 'text', text: packWords.leftOut(inWords(dimension), parts) });
    }
    return blocks;
  }

  private async chart({ of, row, differs }: PageOf<'chart'>): Promise<Content> {
    const isBreakdown = this.document(of).kind === 'breakdown';
    const { opened, unit } = await this.open(of, differs, isBreakdown ? undefined : CHART_COLUMNS);
    const sheet = viewOf(opened);
    const drawn = row ?? opened.source.rowLayout.result ?? '';
    const blocks = isBreakdown ? breakdownCharts(opened, sheet, unit) : rowCharts(sheet, drawn, unit);
    const [first] = blocks;
    const title = (first?.kind === 'chart' && first.title) || sheet.name;
    const subtitle = subtitleOf(sheet, { on: 'paper', unit });
    return { title, subtitle, blocks: untitled(blocks), unit, versions: versionsOf(sheet) };
  }

  private exceptions({ of, span, differs }: PageOf<'exceptions'>): Promise<Content> {
    const unit = this.unitOf(differs, this.document(of));
    return exceptionsContent(this.snapshot, this.exceptionsAsked(of, span, differs), unit);
  }

  private exceptionsAsked(
    of: string,
    span: ExceptionsQuery['span'],
    differs: PageDiffers | undefined,
  ): ExceptionsQuery {
    const { scope, as_at, version, against } = this.contextOf(differs);
    return {
      ...{ scope, as_at, statement: of },
      ...(version !== undefined && { version }),
      ...(against !== undefined && { against }),
      ...(span && { span }),
    };
  }

  private underlying({ of, span, differs }: PageOf<'underlying'>): Promise<Content> {
    const statement = this.document(of);
    const asked = this.exceptionsAsked(of, span, differs);
    return underlyingContent(this.snapshot, asked, this.unitOf(differs, statement), statement.name);
  }

  private balances({ only, differs }: PageOf<'balances'>): Promise<Content> {
    const { scope, as_at } = this.contextOf(differs);
    return balancesContent(this.snapshot, { scope, as_at }, differs?.unit ?? this.pack.unit ?? 1, only);
  }

  private async tiles({ tiles, differs }: PageOf<'tiles'>): Promise<Content> {
    const shown: Tile[] = [];
    for (const { of, cell, columns, label } of tiles) {
      const { opened, unit } = await this.open(of, differs, columns);
      const node = nodeOfAddress(opened.evaluation, `cell~${cell}`);
      if (!node) throw appError('SRV_TRACE_UNKNOWN', { address: cell });
      const figure = opened.evaluation.figure(node);
      const view = viewOf(opened);
      const [row, column] = cell.split('~') as [string, string];
      const head = view.columns.find(({ id }) => id === column);
      const isPercent = figure.unit.kind === RATIO.kind;
      shown.push({
        label: label ?? view.rows.find(({ id }) => id === row)?.label ?? row,
        note: [head?.blockLabel, head?.label].filter(Boolean).join(' · '),
        ...this.pageWith({ of, columns, differs }),
        cell: {
          ...{ figure, unit: figure.unit, note: '', address: cell, decimals: shownDecimals(figure.unit, unit, {}) },
          text: isPercent ? quotedText(figure, unit) : formatFigure(figure, unit, { zero: 'zero' }),
        },
      });
    }
    return {
      subtitle: [this.scope.name, packWords.asAt(this.at)].join(' · '),
      blocks: [{ kind: 'tiles', tiles: shown }],
    };
  }

  /** The page of the pack whose table has the same figures. */
  private pageWith({ of, columns, differs }: { of: string; columns?: string; differs?: PageDiffers }): { on?: string } {
    const isSame = (a: unknown, b: unknown) => JSON.stringify(a ?? {}) === JSON.stringify(b ?? {});
    const found = this.pack.pages.find(
      (page) => page.kind === 'figures' && page.of === of && page.columns === columns && isSame(page.differs, differs),
    );
    return found ? { on: found.id } : {};
  }

  private async text({ body, quotes = [], differs }: PageOf<'text'>): Promise<Content> {
    const { scope: code, currency } = this.contextOf(differs);
    const scope = openScope(this.snapshot.filled, this.snapshot.viewer, code, currency);
    const period = openPeriod(scope, this.context.as_at);
    const reader = new QuoteReader(this.snapshot, scope, period);
    const read = new Map<string, { text: string; moved: string }>();
    for (const { of, at, ...quote } of quotes) {
      const [now] = await reader.figures({ statement: of, quotes: [quote] });
      const shown = this.snapshot.filled.pages.find(({ id }) => id === of);
      const unit = differs?.unit ?? this.pack.unit ?? shown?.unit ?? 1;
      const text = now ? quotedText(now, unit) : quote.shown;
      const isSame = at.scope === scope.code && periodOfAsAt(scope.calendar.calendar, at.as_at)?.key === period.key;
      const hasMoved = isSame && now?.amount !== quote.amount;
      const moved = !now ? packWords.gone : hasMoved ? packWords.was(quote.shown) : '';
      read.set(quote.key, { text, moved });
    }
    const moved = [...read.values()].filter((each) => each.moved).length;
    return { blocks: textBlocks(body, (key) => read.get(key)), open: moved > 0 ? [packWords.moved(moved)] : [] };
  }

  private async remarksOf({ scope, source, document }: OpenedStatement): Promise<LiveRemark[]> {
    const asked = { scope: scope.code, as_at: source.at.key, statement: document.id };
    return (await remarksView(this.snapshot, asked)).remarks;
  }

  private async open(of: string, differs: PageDiffers | undefined, columns?: string) {
    const context: StatementContext = { ...this.contextOf(differs), ...(columns !== undefined && { columns }) };
    const opened = await openKept(this.snapshot, of, context);
    return { opened, unit: this.unitOf(differs, opened.document) };
  }

  private unitOf(differs: PageDiffers | undefined, document: FiguresPage): ShownUnit {
    return differs?.unit ?? this.pack.unit ?? document.unit;
  }

  /** @throws SRV_STATEMENT_UNKNOWN */
  private document(id: string): FiguresPage {
    const { pages } = this.snapshot.filled;
    const found = pages.find((page) => page.id === id);
    if (!found) throw appError('SRV_STATEMENT_UNKNOWN', { id, known: pages.map((page) => page.id).join(', ') });
    return found;
  }

  private contextOf(differs?: PageDiffers): StatementContext {
    return pageContext(this.context, differs);
  }
}
