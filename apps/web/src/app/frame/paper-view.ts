import { ApplicationRef, ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { breakColumns, columnBlocks, type Page, type PageTable } from '@margin-lens/core/shown';
import { columnWidths, WIDTH } from '../statement/column-widths';
import { Paper } from '../shared/paper';

/** What a sheet of A4 on its side leaves for columns of figures, in CSS pixels: 297 mm less margins of 12 mm, and the labels. */
const ROOM = (273 / 25.4) * 96 - WIDTH.label - 40;

/** The page on paper: what the browser prints in place of the screen, columns broken over sheets with their labels repeated. */
@Component({
  selector: 'ml-paper-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './paper-view.html',
  styleUrl: './paper-view.scss',
  host: { '(window:beforeprint)': 'lay()', '(window:afterprint)': 'clear()' },
})
export class PaperView {
  private readonly paper = inject(Paper);
  private readonly application = inject(ApplicationRef);
  private readonly laid = signal<Page | undefined>(undefined);

  protected readonly page = computed(() => {
    const page = this.laid();
    return (
      page && {
        ...page,
        subtitle: [page.subtitle, page.asAt].filter(Boolean).join(' · '),
        tables: page.blocks.flatMap((block) => (block.kind === 'table' ? sheetsOf(block.table) : [])),
        words: page.blocks.filter((block) => block.kind === 'heading' || block.kind === 'text'),
      }
    );
  });

  protected lay(): void {
    const page = this.paper.page();
    this.laid.set(page);
    document.documentElement.classList.toggle('on-paper', page !== undefined);
    // the browser prints what stands there when this returns
    this.application.tick();
  }

  protected clear(): void {
    this.laid.set(undefined);
    document.documentElement.classList.remove('on-paper');
  }
}

/** The table on each of its sheets, with the heads of its blocks. */
function sheetsOf(table: PageTable) {
  const texts = table.rows.map(({ cells }) => cells.map(({ text }) => text));
  const kinds = table.columns.map(({ block, label, note }) => ({ kind: block, label, note }));
  const widths = columnWidths(kinds, texts);
  const sheets = breakColumns(
    table.columns.map(({ block }, at) => ({ block, width: widths[at]! })),
    ROOM,
  );
  return sheets.map((columns) => ({
    columns: columns.map((at) => ({ ...table.columns[at]!, width: widths[at]! })),
    blocks: columnBlocks(columns.map((at) => table.columns[at]!)),
    rows: table.rows.map((row) => ({
      ...row,
      cells: row.cells.length === 0 ? [] : columns.map((at) => row.cells[at]!),
    })),
  }));
}
