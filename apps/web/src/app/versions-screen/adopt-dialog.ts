import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { exactFigure } from '@margin-lens/core/shown';
import type { AdoptionView } from '@margin-lens/contract';
import { currencyUnit } from '../shared/currency-unit';
import type { FigureWords } from './figure-words';

export interface AdoptionQuestion {
  branch: string;
  adoption: AdoptionView;
  words: FigureWords;
}

/** Shows what adopting a branch would change, before it does; closes with true when it shall. */
@Component({
  selector: 'ml-adopt-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Adopt {{ asked.branch }} into {{ asked.adoption.into }}?</h2>
    <mat-dialog-content>
      @for (part of parts(); track part.scope) {
        <section data-testid="adopted">
          <h3>{{ part.name }}</h3>
          <p class="thin">{{ part.says }}</p>
          <table>
            @for (cell of part.shown; track $index) {
              <tr>
                <th scope="row">{{ cell.place }}</th>
                <td>{{ cell.before }}</td>
                <td>→ {{ cell.after }}</td>
              </tr>
            }
          </table>
          @if (part.more > 0) {
            <p class="thin">and {{ part.more }} smaller changes</p>
          }
        </section>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="false" cdkFocusInitial>Cancel</button>
      <button matButton="filled" type="button" [mat-dialog-close]="true" data-testid="adopt">Adopt</button>
    </mat-dialog-actions>
  `,
  styles: `
    h3 {
      margin: 8px 0 0;
      font: 600 var(--text) / 1.3 var(--sans);
    }
    .thin {
      margin: 0 0 4px;
      color: var(--ink-2);
      font-size: var(--small);
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th {
      font-weight: 400;
      text-align: left;
    }
    th,
    td {
      padding: 2px 0 2px 8px;
      border-bottom: 1px solid var(--rule);
    }
    th {
      padding-left: 0;
    }
    td {
      text-align: right;
      white-space: nowrap;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class AdoptDialog {
  protected readonly asked = inject<AdoptionQuestion>(MAT_DIALOG_DATA);

  protected readonly parts = computed(() =>
    this.asked.adoption.parts.map(({ scope, name, currency, count, profit, cells }) => {
      const { place, amount } = this.asked.words;
      const effect = exactFigure({ amount: profit, unit: currencyUnit(currency) });
      const says = `${count === 1 ? 'One figure changes' : `${count} figures change`}; profit ${
        profit === 0 ? 'stays as it is' : `moves by ${effect} ${currency}, ${profit > 0 ? 'favourable' : 'adverse'}`
      }`;
      const shown = cells.map((cell) => ({
        place: place(cell),
        before: amount({ ...cell, scope }, cell.before),
        after: amount({ ...cell, scope }, cell.after),
      }));
      return { scope, name, says, shown, more: count - shown.length };
    }),
  );
}
