import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, distinctUntilChanged, map, of, startWith, switchMap } from 'rxjs';
import { ACTUAL, linesOf } from '@margin-lens/core';
import type { ErrorReply, VersionView } from '@margin-lens/contract';
import { VersionsApi } from '../shared/versions-api';
import { DifferenceList } from './difference-list';
import { differenceView } from './difference-view';
import { PlanningStore } from './planning-store';

/** Where two versions differ: bottom line, months, sections, accounts, each with a guess at the cause. */
@Component({
  selector: 'ml-differences-panel',
  imports: [DifferenceList, MatCheckboxModule, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './differences-panel.html',
  styleUrl: './differences-panel.scss',
})
export class DifferencesPanel {
  readonly versions = input.required<readonly VersionView[]>();
  /** Asks for the cell of an account's month. */
  readonly go = output<{ account: string; month: number }>();

  protected readonly store = inject(PlanningStore);
  private readonly api = inject(VersionsApi);
  /** What it is held against; nothing where that is not there any more, or is the version itself. */
  protected readonly other = computed(() => {
    const held = this.store.heldAgainst();
    return held === ACTUAL || this.versions().some(({ code }) => code === held) ? held : '';
  });

  private readonly question = computed(() => {
    const place = this.store.place();
    if (!place || this.other() === '') return undefined;
    const { version, scope } = place;
    return { version: this.other(), scope: scope.code, from: version.from, to: version.to };
  });
  private readonly answer = toSignal(
    toObservable(this.question).pipe(
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
      switchMap((question) =>
        question
          ? this.api.figures(question).pipe(
              map((view) => ({ lines: linesOf(view.lines), error: undefined })),
              catchError((error: ErrorReply) => of({ lines: undefined, error })),
              // what was found of another question is gone at once
              startWith(undefined),
            )
          : of(undefined),
      ),
    ),
  );
  protected readonly error = computed(() => this.answer()?.error);

  /** Each combination of values on its own, rather than the accounts. */
  protected readonly byValue = signal(false);
  protected readonly found = computed(() => {
    const [a, sides] = [this.answer()?.lines, this.store.sides()];
    if (!a || !sides) return undefined;
    const nameOfA = this.versions().find(({ code }) => code === this.other())?.name ?? 'actual';
    return differenceView({
      ...sides,
      a,
      b: this.store.lines(),
      nameOfA,
      nameOfB: this.store.place()!.version.name,
      byValue: this.byValue(),
    });
  });
}
