import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { Account, AllocationDocument, AllocationKey } from '@margin-lens/core';
import { AccountSetField } from '../shape/account-set-field';
import { MoveButtons } from '../shared/move-buttons';

export type Step = AllocationDocument['steps'][number];

interface Value {
  value: string;
  name: string;
  depth: number;
}

/** One step of an allocation: whose costs go to whom, and by which key. */
@Component({
  selector: 'ml-step-editor',
  imports: [AccountSetField, MoveButtons, MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="step" role="group" [attr.aria-label]="'Step ' + (place() + 1)">
      <span class="place">{{ place() + 1 }}</span>
      <mat-form-field class="name">
        <mat-label>Step</mat-label>
        <input matInput [value]="step().name" (change)="put({ name: $any($event.target).value })" />
      </mat-form-field>
      <mat-form-field>
        <mat-label>Costs of</mat-label>
        <mat-select multiple [value]="step().from" (valueChange)="put({ from: $event })" data-testid="from">
          @for (each of values(); track each.value) {
            <mat-option [value]="each.value" [style.padding-left.px]="16 + 14 * each.depth">{{ each.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <mat-form-field>
        <mat-label>go to</mat-label>
        <mat-select multiple [value]="step().to" (valueChange)="putTo($event)" data-testid="to">
          @for (each of values(); track each.value) {
            <mat-option [value]="each.value" [style.padding-left.px]="16 + 14 * each.depth">{{ each.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
      <mat-form-field class="by">
        <mat-label>by</mat-label>
        <mat-select [value]="keyKind()" (valueChange)="putKind($event)" data-testid="key">
          <mat-option value="fixed">Fixed parts</mat-option>
          <mat-option value="movement">Accounts, in the month</mat-option>
          <mat-option value="closing">Accounts, at its end</mat-option>
        </mat-select>
      </mat-form-field>
      <ml-move-buttons
        class="acts"
        what="step"
        [isFirst]="place() === 0"
        [isLast]="isLast()"
        (moved)="moved.emit($event)"
        (removed)="removed.emit()"
      />
      <div class="parts">
        @if (weights(); as weights) {
          @for (each of weights; track each.value) {
            <mat-form-field>
              <mat-label>{{ each.name }}</mat-label>
              <input
                matInput
                type="number"
                min="0"
                step="any"
                [value]="each.weight"
                (change)="putWeight(each.value, $any($event.target).value)"
              />
              <span matTextSuffix class="share">{{ each.share }}</span>
            </mat-form-field>
          } @empty {
            <p class="thin">Choose who takes the costs over, then the part of each.</p>
          }
        } @else if (accountKey(); as key) {
          <ml-account-set-field
            label="Accounts whose figures are the key"
            [set]="key.accounts"
            [accounts]="accounts()"
            (changed)="put({ key: { by: 'accounts', of: key.of, accounts: $event } })"
          />
        }
      </div>
    </div>
  `,
  styleUrl: './step-editor.scss',
})
export class StepEditor {
  readonly step = input.required<Step>();
  readonly place = input.required<number>();
  readonly isLast = input.required<boolean>();
  readonly values = input.required<readonly Value[]>();
  readonly accounts = input.required<readonly Account[]>();
  readonly changed = output<Step>();
  readonly moved = output<-1 | 1>();
  readonly removed = output();

  protected readonly keyKind = computed(() => {
    const { key } = this.step();
    return key.by === 'fixed' ? 'fixed' : key.of;
  });
  protected readonly accountKey = computed(() => {
    const { key } = this.step();
    return key.by === 'accounts' ? key : undefined;
  });
  /** Of a fixed key: each taker with its part. */
  protected readonly weights = computed(() => {
    const { key, to } = this.step();
    if (key.by !== 'fixed') return undefined;
    const weightOf = (value: string) => key.weights.find((each) => each.value === value)?.weight ?? 0;
    const whole = to.reduce((sum, value) => sum + weightOf(value), 0);
    return to.map((value) => ({
      value,
      name: this.values().find((each) => each.value === value)?.name ?? value,
      weight: weightOf(value),
      share: whole === 0 ? '' : `${Math.round((1000 * weightOf(value)) / whole) / 10} %`,
    }));
  });

  protected put(part: Partial<Step>): void {
    this.changed.emit({ ...this.step(), ...part });
  }

  protected putTo(to: string[]): void {
    const { key } = this.step();
    if (key.by !== 'fixed') return this.put({ to });
    const weights = to.map((value) => key.weights.find((each) => each.value === value) ?? { value, weight: 1 });
    this.put({ to, key: { by: 'fixed', weights } });
  }

  protected putKind(kind: 'fixed' | 'movement' | 'closing'): void {
    const { key, to } = this.step();
    const next: AllocationKey =
      kind === 'fixed'
        ? { by: 'fixed', weights: to.map((value) => ({ value, weight: 1 })) }
        : { by: 'accounts', of: kind, accounts: key.by === 'accounts' ? key.accounts : { include: [] } };
    this.put({ key: next as Step['key'] });
  }

  protected putWeight(value: string, text: string): void {
    const { key, to } = this.step();
    if (key.by !== 'fixed') return;
    const weight = Math.max(0, Number(text) || 0);
    const weights = to.map((each) =>
      each === value
        ? { value, weight }
        : (key.weights.find((other) => other.value === each) ?? { value: each, weight: 0 }),
    );
    this.put({ key: { by: 'fixed', weights } });
  }
}
