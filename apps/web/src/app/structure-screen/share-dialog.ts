import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { catchError, debounceTime, of, startWith, switchMap } from 'rxjs';
import { exactFigure } from '@margin-lens/core/shown';
import type { ErrorReply, ShareView, StructureChange, StructureEffect } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { SetupApi } from '../shared/setup-api';
import { KeepRows } from '../shared/keep-rows';
import { dateOfDay, dayOfDate, provideDates } from '../shared/dates';
import { percentText } from '../shared/percent-of';

/** What the dialog begins with: a share that there is, or the two entities of a new one. */
export interface ShareAsked {
  group: string;
  asAt: string;
  share: Partial<ShareView>;
  /** Set where the share is kept already, so that its two entities and day stay. */
  isKept: boolean;
  entities: readonly { code: string; name: string }[];
}

const PAUSE_MS = 250;
const PERCENT = /^\d{1,3}(\.\d{1,8})?$/;
const FIGURES = { result: 'Result of the year to date', assets: 'Total assets', equity: 'Equity' } as const;
const METHODS: Record<ShareView['method'] | 'top', string> = {
  top: 'head',
  full: 'in full',
  proportionate: 'in proportion',
  equity: 'as one line (associate)',
};

/** A share of one entity in another from a day on; shows what it would move before it is kept. */
@Component({
  selector: 'ml-share-dialog',
  imports: [
    MatButtonModule,
    MatDatepickerModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
  ],
  providers: [provideDates()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './share-dialog.html',
  styleUrl: './share-dialog.scss',
})
export class ShareDialog {
  protected readonly asked = inject<ShareAsked>(MAT_DIALOG_DATA);
  private readonly api = inject(GroupApi);

  protected readonly methods = (['full', 'proportionate', 'equity'] as const).map((method) => ({
    method,
    name: METHODS[method],
  }));
  protected readonly form = inject(NonNullableFormBuilder).group({
    investor: [{ value: this.asked.share.investor ?? '', disabled: this.asked.isKept }, Validators.required],
    investee: [{ value: this.asked.share.investee ?? '', disabled: this.asked.isKept }, Validators.required],
    from: [
      { value: dateOfDay(this.asked.share.from ?? ''), disabled: this.asked.isKept } as {
        value: Date | null;
        disabled: boolean;
      },
      Validators.required,
    ],
    percent: [this.asked.share.percent ?? '100', [Validators.required, Validators.pattern(PERCENT)]],
    method: [this.asked.share.method ?? ('full' as ShareView['method']), Validators.required],
  });
  protected readonly keeping = new KeepRows(inject(SetupApi), inject(MatDialogRef), 'ownership');

  private readonly values = toSignal(this.form.valueChanges.pipe(startWith(undefined)));
  private readonly share = computed((): ShareView | undefined => {
    this.values();
    const { from, ...share } = this.form.getRawValue();
    return this.form.valid ? { ...share, from: dayOfDate(from) } : undefined;
  });
  /** What the share would move, as soon as it can be read. */
  protected readonly effect = toSignal(
    this.form.valueChanges.pipe(
      startWith(undefined),
      debounceTime(PAUSE_MS),
      switchMap(() => {
        const share = this.share();
        if (!share) return of(undefined);
        const change: StructureChange = { as_at: this.asked.asAt, put: [share], remove: [] };
        return this.api.structureEffect(this.asked.group, change).pipe(
          catchError((error: ErrorReply) =>
            of<StructureEffect>({
              issues: [{ code: error.code, severity: 'error', message: error.message, hint: error.hint }],
              ...{ entities: [], figures: [] },
            }),
          ),
        );
      }),
    ),
  );
  protected readonly moved = computed(() => {
    const lines = this.effect()?.entities ?? [];
    return lines
      .filter(({ before, after }) => JSON.stringify(before) !== JSON.stringify(after))
      .map(({ name, before, after }) => ({ name, before: partWords(before), after: partWords(after) }));
  });
  protected readonly figures = computed(() =>
    (this.effect()?.figures ?? []).map(({ what, before, after }) => ({
      name: FIGURES[what],
      before: figureWords(before),
      after: figureWords(after),
      isMoved: before.amount !== after.amount,
    })),
  );
  protected readonly canKeep = computed(() => {
    const effect = this.effect();
    return this.share() !== undefined && effect !== undefined && effect.issues.length === 0 && !this.keeping.isSaving();
  });

  protected keep(): void {
    const share = this.share();
    if (share) this.keeping.keep([{ ...share }]);
  }

  protected remove(): void {
    const { investor, investee, from } = this.form.getRawValue();
    this.keeping.keep([], [{ investor, investee, from: dayOfDate(from) }]);
  }
}

type Part = StructureEffect['entities'][number]['before'];

const partWords = (part: Part): string =>
  part ? `${METHODS[part.method as keyof typeof METHODS]}, ${percentText(part.effective)}` : 'no part of it';

const figureWords = (figure: StructureEffect['figures'][number]['before']): string =>
  figure.amount === null ? 'not known' : exactFigure(figure);
