import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import { ageBands, readAges, type Ages } from '@margin-lens/core/shown';

/** Asks after which days open items are told apart, and from which day on they are aged. */
@Component({
  selector: 'ml-ages-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatRadioModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Age of open items</h2>
    <mat-dialog-content>
      <form id="ages" (submit)="$event.preventDefault(); take()">
        <mat-radio-group aria-label="Aged from" [value]="agedBy()" (change)="agedBy.set($event.value)">
          <mat-radio-button value="due">From the day they are due</mat-radio-button>
          <mat-radio-button value="document">From the day of the document</mat-radio-button>
        </mat-radio-group>
        <mat-form-field>
          <mat-label>Days after which they are told apart</mat-label>
          <input
            matInput
            name="days"
            inputmode="numeric"
            [value]="text()"
            (input)="text.set($any($event.target).value)"
          />
          <mat-hint>Rising, with commas between them</mat-hint>
        </mat-form-field>
        @if (ages(); as days) {
          <p class="bands" data-testid="bands">{{ bandsOf(days) }}</p>
        } @else {
          <p class="issue" role="alert">Whole days that rise from one to the next are wanted, such as 30, 60, 90.</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="ages" [disabled]="!ages()">Age them so</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
    }
    mat-radio-group {
      display: grid;
    }
    .bands {
      margin: 8px 0 0;
      color: var(--ink-2);
    }
  `,
})
export class AgesDialog {
  private readonly data = inject<Ages>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<AgesDialog, Ages>>(MatDialogRef);

  protected readonly agedBy = signal(this.data.agedBy);
  protected readonly text = signal(this.data.ages.join(', '));
  protected readonly ages = computed(() => readAges(this.text()));

  protected readonly bandsOf = (ages: readonly number[]): string =>
    ageBands(ages)
      .map(({ name }) => name)
      .join(' · ');

  protected take(): void {
    const ages = this.ages();
    if (ages) this.ref.close({ ages, agedBy: this.agedBy() });
  }
}
