import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { ExplainedView, ExplanationsView } from '@margin-lens/contract';
import { bridgeBars, bridgeHeight, cutWords, underlyingSteps } from '@margin-lens/core/drawn';
import { formatFigure, type ShownUnit } from '@margin-lens/core/shown';
import { KIND_WORDS } from '../remarks/explanation-words';
import { Chart } from '../shared/chart';

const RETURN_WORDS = {
  to_come: 'to come',
  returned: 'came back',
  in_part: 'came back in part',
  not_returned: 'has not come back',
} as const;

/** What remarks say of the variance: by kind, from the reported to the underlying result, and what is due to come back. */
@Component({
  selector: 'ml-explained',
  imports: [Chart, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (told().explained.length > 0) {
      <section class="two">
        <div>
          <h2>The variance, by what it is</h2>
          <table data-testid="by-kind">
            <tbody>
              @for (part of parts(); track part.label) {
                <tr>
                  <th scope="row">{{ part.label }}</th>
                  <td [class.favourable]="part.amount > 0" [class.adverse]="part.amount < 0">{{ part.text }}</td>
                </tr>
              }
              <tr class="result">
                <th scope="row">{{ told().result }}, variance</th>
                <td>{{ money(told().variance) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div>
          <h2>Reported to underlying</h2>
          @if (steps(); as bridge) {
            <ml-chart
              [option]="bridge.option"
              [style.height.px]="bridge.height"
              [label]="bridge.says"
              data-testid="underlying"
            />
            @if (bridge.cut) {
              <p class="thin">{{ bridge.cut }}</p>
            }
          } @else {
            <p class="thin">No remark names anything that does not come again.</p>
          }
        </div>
      </section>
    }
    @if (told().due.length > 0) {
      <h2>Timing, to come back by {{ told().asAt.name }}</h2>
      <table data-testid="due">
        <thead>
          <tr>
            <th scope="col">Row</th>
            <th scope="col" class="number">Effect</th>
            <th scope="col">Of</th>
            <th scope="col">Expected in</th>
            <th scope="col" class="number">Seen there</th>
            <th scope="col">State</th>
          </tr>
        </thead>
        <tbody>
          @for (each of due(); track each.id) {
            <tr>
              <th scope="row">
                <button matButton class="plain" type="button" (click)="chosen.emit(each.row)">{{ each.label }}</button>
                <span class="thin">{{ each.text }}</span>
              </th>
              <td class="number">{{ money(each.amount) }}</td>
              <td>{{ each.in.name }}</td>
              <td>{{ each.expected }}</td>
              <td class="number">{{ each.seen }}</td>
              <td [class.favourable]="each.state === 'returned'" [class.adverse]="each.state === 'not_returned'">
                {{ each.words }}
              </td>
            </tr>
          }
        </tbody>
      </table>
    }
  `,
  styleUrl: './explained.scss',
})
export class Explained {
  readonly told = input.required<ExplanationsView>();
  readonly unit = input.required<ShownUnit>();
  /** Id of a row that is to be looked at. */
  readonly chosen = output<string>();

  protected readonly parts = computed(() => {
    const { parts, rest } = this.told();
    const named = parts.map(({ kind, amount }) => ({ label: KIND_WORDS[kind], amount }));
    return [...named, { label: 'Not told by a remark', amount: rest }].map((part) => ({
      ...part,
      text: this.money(part.amount),
    }));
  });
  protected readonly steps = computed(() => {
    const told = this.told();
    const { unit, terms } = told;
    if (!unit || terms.length === 0) return undefined;
    const steps = underlyingSteps({ ...told, unit });
    const says = [steps.from, ...terms, steps.to]
      .map(({ label, amount }) => `${label} ${this.money(amount)}`)
      .join(', ');
    return {
      ...{ option: bridgeBars(steps, this.unit()), height: bridgeHeight(steps), says },
      cut: cutWords(steps, this.unit()),
    };
  });
  protected readonly due = computed(() => this.told().due.map((each) => ({ ...each, ...this.returnOf(each) })));

  private returnOf({ returns }: ExplainedView) {
    const { state, observed, name } = returns!;
    return { state, expected: name, words: RETURN_WORDS[state], seen: observed === null ? '' : this.money(observed) };
  }

  protected money(amount: number): string {
    const { unit } = this.told();
    return unit ? formatFigure({ amount, unit }, this.unit(), { zero: 'dash' }) : '';
  }
}
