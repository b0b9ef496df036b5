import { ApplicationRef, ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { PackSheet } from '@margin-lens/contract';
import { laySheets, marksOfParts, type Measure, type Page } from '@margin-lens/core';
import { momentInWords } from '../shared/moment';
import { Paper } from '../shared/paper';
import { SheetView } from '../shared/sheet-view';
import { screenMeasure } from './screen-measure';

/** The page on paper: what the browser prints in place of the screen, laid on sheets as in a document, but without its charts. */
@Component({
  selector: 'ml-paper-view',
  imports: [SheetView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (sheet of sheets(); track $index; let at = $index) {
      <ml-sheet-view
        [sheet]="sheet"
        [label]="'Sheet ' + (at + 1)"
        [class.lying]="sheet.width > sheet.height"
        [style.aspect-ratio]="sheet.width + ' / ' + sheet.height"
      />
    }
  `,
  // on screen nothing of it is seen; see `app.scss` for what is hidden on paper
  styles: `
    :host {
      display: none;
    }
    @media print {
      :host {
        display: block;
      }
    }
    ml-sheet-view {
      page: upright;
      // a hair less than the sheet, so that rounding begins no second one
      width: 99.9%;
      box-shadow: none;
      break-inside: avoid;
      break-after: page;
    }
    ml-sheet-view.lying {
      page: lying;
    }
    ml-sheet-view:last-child {
      break-after: auto;
    }
  `,
  host: { '(window:beforeprint)': 'lay()', '(window:afterprint)': 'clear()' },
})
export class PaperView {
  private readonly paper = inject(Paper);
  private readonly application = inject(ApplicationRef);
  private measure: Measure | undefined;
  protected readonly sheets = signal<readonly PackSheet[]>([]);

  protected lay(): void {
    const page = this.paper.page();
    this.sheets.set(page ? this.laid(page) : []);
    document.documentElement.classList.toggle('on-paper', page !== undefined);
    // the browser prints what stands there when this returns
    this.application.tick();
  }

  protected clear(): void {
    this.sheets.set([]);
    document.documentElement.classList.remove('on-paper');
  }

  private laid(page: Page): PackSheet[] {
    this.measure ??= screenMeasure();
    // charts are drawn later than the browser waits
    const blocks = page.blocks.filter(({ kind }) => kind !== 'chart');
    const foot = {
      says: `Margin Lens · printed ${momentInWords(new Date().toISOString())}`,
      sheet: (number: number, of: number) => `page ${number} of ${of}`,
    };
    const { sheets } = laySheets([{ id: 'page', page: { ...page, blocks } }], foot, this.measure);
    return sheets.map(({ parts, ...sheet }) => ({ ...sheet, marks: marksOfParts(parts) }));
  }
}
