import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatRadioModule } from '@angular/material/radio';
import { MatSelectModule } from '@angular/material/select';
import { formatFigure, type SheetRow, type ShownUnit } from '@margin-lens/core';
import type { ActionForm } from './action-form';
import type { MethodChoice, RowOutlook } from './action-outlook';

/** What is forecast, by which method, and of several rows what each becomes by which. */
@Component({
  selector: 'ml-forecast-field',
  imports: [MatFormFieldModule, MatRadioModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './forecast-field.html',
  styleUrls: ['./action-fields.scss', './forecast-field.scss'],
})
export class ForecastField {
  readonly form = input.required<ActionForm>();
  /** Rows that are forecast. */
  readonly rows = input.required<readonly SheetRow[]>();
  readonly methods = input.required<readonly MethodChoice[]>();
  /** Undefined while they are being worked out. */
  readonly outlooks = input.required<readonly RowOutlook[] | undefined>();
  readonly unit = input.required<ShownUnit>();
  readonly changed = output<Partial<ActionForm>>();

  /** Rows that have a forecast, if they are several. */
  protected readonly summary = computed(() => {
    const outlooks = this.outlooks() ?? [];
    if (outlooks.length < 2) return [];
    const rowOf = new Map(this.rows().map((row) => [row.id, row]));
    return outlooks
      .filter(({ problem }) => problem === '')
      .map((each) => {
        const row = rowOf.get(each.row);
        const text = (figures: readonly number[]) => {
          const amount = row?.isBalance ? figures.at(-1)! : figures.reduce((sum, figure) => sum + figure, 0);
          return row ? formatFigure({ amount, unit: row.unit }, this.unit(), { decimals: row.decimals }) : '';
        };
        return { ...each, past: text(each.past), next: text(each.figures) };
      });
  });
  protected readonly left = computed(() => (this.outlooks() ?? []).filter(({ problem }) => problem !== ''));
}
