import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { DifferenceView } from './difference-view';

/** Where two sides differ: the verdict, rows with a guess at the cause, sections and months. */
@Component({
  selector: 'ml-difference-list',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="verdict" role="status" data-testid="verdict">
      <strong>{{ found().bottomLine }}</strong> in the result. {{ found().verdict }}
    </p>
    @if (found().rows.length > 0) {
      <h3>Accounts</h3>
      <ol data-testid="differences">
        @for (row of found().rows; track row.id) {
          <li>
            <button matButton class="entry" type="button" (click)="go.emit({ account: row.account, month: row.month })">
              <span class="name" [title]="row.label">{{ row.label }}</span>
              <span class="figure">{{ row.text }}</span>
              <span class="thin">{{ row.guess }}{{ row.monthName }}</span>
            </button>
          </li>
        }
      </ol>
      @if (found().more > 0) {
        <p class="thin">and {{ found().more }} more</p>
      }
      <h3>Sections</h3>
      <dl>
        @for (section of found().sections; track section.name) {
          <dt>{{ section.name }}</dt>
          <dd>{{ section.text }}</dd>
        }
      </dl>
      <h3>Months</h3>
      <dl>
        @for (month of found().months; track month.name) {
          <dt>{{ month.name }}</dt>
          <dd>{{ month.text }}</dd>
        }
      </dl>
    }
  `,
  styleUrl: './difference-list.scss',
})
export class DifferenceList {
  readonly found = input.required<DifferenceView>();
  /** Asks for the cell of an account's month. */
  readonly go = output<{ account: string; month: number }>();
}
