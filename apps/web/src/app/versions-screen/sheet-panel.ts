import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { SheetDifferenceView } from '@margin-lens/contract';
import { countText } from '@margin-lens/core/shown';
import { DifferenceList } from './difference-list';
import { differenceView } from './difference-view';
import type { FigureWords } from './figure-words';
import { PlanningStore } from './planning-store';

const SHOWN = 40;

/** What a sheet that came back would do: adds, changes, and what could not be taken; then the button that does it. */
@Component({
  selector: 'ml-sheet-panel',
  imports: [DifferenceList, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ sheet().fileName }}</h2>
    <p data-testid="sheet-says">
      {{ says() }}
    </p>
    @if (sheet().rejected.length > 0) {
      <h3>Not taken</h3>
      <ul>
        @for (cell of sheet().rejected; track $index) {
          <li>
            <span>Line {{ cell.line }}: {{ cell.what }}</span>
            <span class="thin">{{ cell.problem }}</span>
          </li>
        }
      </ul>
    }
    @if (sheet().left.length > 0) {
      <h3>No more in the file, and left as they are</h3>
      <ul data-testid="sheet-left">
        @for (line of sheet().left.slice(0, SHOWN); track $index) {
          <li>
            <span>{{ line.what }}</span>
            <span class="thin">{{ leftWords(line) }}</span>
          </li>
        }
      </ul>
      @if (sheet().left.length > SHOWN) {
        <p class="thin">and {{ sheet().left.length - SHOWN }} more</p>
      }
      <p class="thin">To take a figure out, write 0 into its cell.</p>
    }
    @if (found(); as found) {
      <h3>What it changes</h3>
      <ml-difference-list class="found" [found]="found" (go)="go.emit($event)" />
    }
    @if (cells().length > 0) {
      <h3>Figures</h3>
      <ul>
        @for (cell of cells(); track $index) {
          <li>
            <span>{{ cell.place }}</span>
            <span class="figures">{{ cell.before }} → {{ cell.after }}</span>
          </li>
        }
      </ul>
      @if (sheet().cells.length > cells().length) {
        <p class="thin">and {{ sheet().cells.length - cells().length }} more</p>
      }
    }
    <p class="acts">
      <button
        matButton="filled"
        type="button"
        [disabled]="sheet().cells.length === 0"
        (click)="take()"
        data-testid="take-sheet"
      >
        {{
          sheet().cells.length === 0
            ? 'Nothing to take'
            : 'Take ' + sheet().cells.length + (sheet().cells.length === 1 ? ' figure' : ' figures')
        }}
      </button>
      <button matButton="outlined" type="button" (click)="done.emit()">Cancel</button>
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 12px 14px;
    }
    h2 {
      margin: 0 0 4px;
      font: 600 var(--large) / 1.3 var(--serif);
    }
    h3 {
      margin: 12px 0 4px;
      font: 600 var(--text) / 1.3 var(--sans);
    }
    p {
      margin: 0;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: var(--medium);
    }
    li {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 0 8px;
      padding: 2px 0;
      border-bottom: 1px solid var(--rule);
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
    .figures {
      font-variant-numeric: tabular-nums;
    }
    .acts {
      display: flex;
      gap: 8px;
      margin-top: 12px;
    }
  `,
})
export class SheetPanel {
  readonly sheet = input.required<SheetDifferenceView>();
  readonly figures = input.required<FigureWords>();
  readonly done = output();
  /** Asks for the cell of an account's month. */
  readonly go = output<{ account: string; month: number }>();
  private readonly store = inject(PlanningStore);

  protected readonly says = computed(() => {
    const { adds, changed, same, rejected } = this.sheet();
    return `${countText(adds)} new, ${countText(changed)} changed, ${countText(same)} as they are, ${countText(rejected.length)} not taken.`;
  });
  protected readonly SHOWN = SHOWN;
  protected leftWords({ how, figures }: SheetDifferenceView['left'][number]): string {
    const count = `${countText(figures)} ${figures === 1 ? 'figure' : 'figures'}`;
    return how === 'deleted' ? `its line is gone, ${count}` : `emptied, ${count}`;
  }
  protected readonly cells = computed(() => {
    const { place, amount } = this.figures();
    return this.sheet()
      .cells.slice(0, SHOWN)
      .map((cell) => ({ place: place(cell), before: amount(cell, cell.before), after: amount(cell, cell.after) }));
  });

  /** Where the sheet differs from the version, with a guess at the causes. */
  protected readonly found = computed(() => {
    const [sides, { cells, fileName }] = [this.store.sides(), this.sheet()];
    if (!sides || cells.length === 0) return undefined;
    const nameOfA = this.store.place()!.version.name;
    return differenceView({
      ...sides,
      a: this.store.lines(),
      b: this.store.linesWith(cells),
      nameOfA,
      nameOfB: fileName,
      byValue: false,
    });
  });

  protected take(): void {
    const { fileName, cells } = this.sheet();
    this.store.takeSheet(fileName, cells);
    this.done.emit();
  }
}
