import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { startWith } from 'rxjs';
import { inWords } from '@margin-lens/core/shown';
import type { LocalCodeView, MappingView } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { dayOfDate, provideDates } from '../shared/dates';
import { KeepRows } from '../shared/keep-rows';

/** What is to be mapped, and to what it can be. */
export interface CodeAsked {
  entity: string;
  entityName: string;
  code: LocalCodeView;
  targets: MappingView['targets'];
}

const OFFERED = 30;

/** Which account or value of the group stands for one of an entity's own, from a day on. */
@Component({
  selector: 'ml-map-dialog',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDatepickerModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
  ],
  providers: [provideDates()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.code.to ? 'Change' : 'Map' }} {{ asked.code.code }} of {{ asked.entityName }}</h2>
    <mat-dialog-content>
      <form id="map" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field>
          <mat-label>{{ isAccount ? 'Its accounts' : inWords(asked.code.dimension) }}</mat-label>
          <input matInput formControlName="from" />
          @if (isAccount) {
            <mat-hint>Also several, as 4000..4199, 4300</mat-hint>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>From</mat-label>
          <input matInput formControlName="since" [matDatepicker]="calendar" />
          <mat-datepicker-toggle matIconSuffix [for]="calendar" />
          <mat-datepicker #calendar />
          <mat-hint>Always, when empty</mat-hint>
        </mat-form-field>
        <mat-form-field class="wide">
          <mat-label>{{ isAccount ? 'Account of the group' : 'Value of the group' }}</mat-label>
          <input matInput formControlName="to" [matAutocomplete]="list" cdkFocusInitial data-testid="to" />
          <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption>
            @for (target of offered(); track target.code) {
              <mat-option [value]="target.code">{{ target.code }} {{ target.name }}</mat-option>
            }
          </mat-autocomplete>
          <mat-hint>{{ chosen() }}</mat-hint>
          @if (form.controls.to.touched && form.controls.to.invalid) {
            <mat-error>Choose one</mat-error>
          }
        </mat-form-field>
      </form>
      @if (keeping.problem()) {
        <p class="adverse" role="alert">{{ keeping.problem() }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="map" [disabled]="!canKeep()">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 12px;
      padding-top: 4px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class MapDialog {
  protected readonly asked = inject<CodeAsked>(MAT_DIALOG_DATA);
  protected readonly inWords = inWords;

  protected readonly isAccount = this.asked.code.kind === 'account';
  protected readonly keeping = new KeepRows(
    inject(SetupApi),
    inject(MatDialogRef),
    this.isAccount ? 'account_map' : 'value_map',
  );
  protected readonly form = inject(NonNullableFormBuilder).group({
    from: [this.asked.code.code, Validators.required],
    since: [null as Date | null],
    to: ['', Validators.required],
  });

  private readonly values = toSignal(this.form.valueChanges.pipe(startWith(undefined)));
  private readonly typed = computed(() => {
    this.values();
    return this.form.getRawValue().to.trim().toLowerCase();
  });
  protected readonly offered = computed(() => {
    const typed = this.typed();
    return this.asked.targets
      .filter(({ code, name }) => `${code} ${name}`.toLowerCase().includes(typed))
      .slice(0, OFFERED);
  });
  protected readonly chosen = computed(() => this.asked.targets.find(({ code }) => code === this.target())?.name ?? '');
  private readonly target = computed(() => {
    const typed = this.typed();
    return this.asked.targets.find(({ code }) => code.toLowerCase() === typed)?.code;
  });
  protected readonly canKeep = computed(
    () => this.target() !== undefined && this.form.controls.from.value !== '' && !this.keeping.isSaving(),
  );

  protected keep(): void {
    const [to, { from, since }] = [this.target(), this.form.getRawValue()];
    if (to === undefined) return;
    const { entity, code } = this.asked;
    const row = { entity, dimension: code.dimension, from: from.trim(), to, valid_from: since ? dayOfDate(since) : '' };
    this.keeping.keep([row]);
  }
}
