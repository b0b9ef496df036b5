import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Screen } from '../shared/screen';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject, map, merge, Subject, type Observable } from 'rxjs';
import type { PeriodStatusesView, SetPeriodStatus } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from '../shared/latest-answer';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { CloseDialog, type CloseQuestion } from './close-dialog';

/** How long closing what is before is offered, milliseconds. */
const OFFERED_MS = 10_000; // 5,000 to 20,000

type Ask = () => Observable<PeriodStatusesView>;

/** Which periods of which entities take postings: the fiscal year of the pin, one row an entity. */
@Component({
  selector: 'ml-periods-screen',
  imports: [MatButtonModule, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './periods-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './periods-screen.scss'],
})
export class PeriodsScreen {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject(MatDialog);
  private readonly bar = inject(MatSnackBar);
  private readonly retries = new BehaviorSubject<void>(undefined);
  private readonly changes = new Subject<SetPeriodStatus>();

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  private readonly revision = computed(() => this.workspace()?.revision);

  protected readonly state = toSignal(
    latestAnswer(
      merge(
        questionsOf(toObservable(this.revision), this.retries).pipe(map((): Ask => () => this.api.periodStatuses())),
        this.changes.pipe(
          map(
            (change): Ask =>
              () =>
                this.api.setPeriodStatus(change),
          ),
        ),
      ),
      (ask) => ask(),
    ),
    { initialValue: NO_ANSWER as Answer<PeriodStatusesView> },
  );

  private readonly closed = computed(
    () => new Map(this.state().view?.closed.map((row) => [`${row.entity} ${row.period}`, row])),
  );
  protected readonly periods = computed(() => {
    const context = this.contexts.context();
    return context?.periods.filter(({ fiscalYear }) => fiscalYear === context.asAt.fiscalYear) ?? [];
  });
  protected readonly year = computed(() => this.contexts.context()?.asAt.fiscalYear);
  protected readonly rows = computed(() =>
    (this.workspace()?.entities ?? []).map((entity) => ({
      ...entity,
      cells: this.periods().map((period) => {
        const row = this.closed().get(`${entity.code} ${period.key}`);
        return {
          key: period.key,
          isClosed: row !== undefined,
          holds: entity.posted.includes(period.key),
          label: `${entity.name}, ${period.name}`,
          says: row ? `Closed ${momentInWords(row.at)} by ${row.person}` : 'Open for postings',
        };
      }),
    })),
  );
  protected readonly closedCount = computed(() =>
    this.rows().reduce((sum, { cells }) => sum + cells.filter(({ isClosed }) => isClosed).length, 0),
  );

  protected toggle(entity: string, period: string, isClosed: boolean): void {
    this.changes.next({ entities: [entity], periods: [period], status: isClosed ? 'open' : 'closed' });
    if (!isClosed) this.offerBefore(entity, period);
  }

  /** Months before one that is closed can be closed with it. */
  private offerBefore(code: string, period: string): void {
    const { cells, name } = this.rows().find((row) => row.code === code)!;
    const before = cells
      .slice(
        0,
        cells.findIndex(({ key }) => key === period),
      )
      .filter(({ isClosed }) => !isClosed);
    if (before.length === 0) return;
    const months = before.length === 1 ? 'A month before it is' : `${before.length} months before it are`;
    this.bar
      .open(`${months} still open in ${name}`, 'Close up to here', { duration: OFFERED_MS })
      .onAction()
      .subscribe(() =>
        this.changes.next({ entities: [code], periods: before.map(({ key }) => key), status: 'closed' }),
      );
  }

  /** Closes all periods up to and including one, of all entities; opens that one when it is closed everywhere. */
  protected toggleColumn(index: number): void {
    const isClosed = this.isClosedEverywhere(index);
    const periods = isClosed ? [this.periods()[index]!] : this.periods().slice(0, index + 1);
    const entities = this.rows().map(({ code }) => code);
    const change: SetPeriodStatus = {
      entities,
      periods: periods.map(({ key }) => key),
      status: isClosed ? 'open' : 'closed',
    };
    const cells = this.rows().flatMap((row) => row.cells.filter(({ key }) => change.periods.includes(key)));
    const asked: CloseQuestion = {
      period: this.periods()[index]!.name,
      entities: entities.length,
      changes: cells.filter((cell) => cell.isClosed === isClosed).length,
      opens: isClosed,
    };
    this.dialog
      .open<CloseDialog, CloseQuestion, boolean>(CloseDialog, { width: '460px', data: asked })
      .beforeClosed()
      .subscribe((sure) => {
        if (sure) this.changes.next(change);
      });
  }

  protected isClosedEverywhere(index: number): boolean {
    return this.rows().every(({ cells }) => cells[index]!.isClosed);
  }

  protected retry(): void {
    this.retries.next();
  }
}
