import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButton } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { Subscription } from 'rxjs';
import type { ErrorReply, VersionChanges, VersionView } from '@margin-lens/contract';
import { VersionsApi } from '../shared/versions-api';
import { momentInWords } from '../shared/moment';
import type { FigureWords } from './figure-words';

/** Every write of a version's figures, or those of the selected cells: who, when, how, before and after; each can be taken back. */
@Component({
  selector: 'ml-changes-panel',
  imports: [MatButton, MatButtonModule, MatButtonToggleModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="narrow">
      <mat-button-toggle-group
        aria-label="Which changes"
        [value]="ofSelection()"
        (change)="ofSelection.set($event.value)"
      >
        <mat-button-toggle [value]="false">All</mat-button-toggle>
        <mat-button-toggle [value]="true" [disabled]="!selected()">Of the selection</mat-button-toggle>
      </mat-button-toggle-group>
      <mat-form-field>
        <input
          matInput
          type="search"
          placeholder="Filter"
          aria-label="Filter by person or what was done"
          #sought
          (input)="filter.set(sought.value)"
        />
      </mat-form-field>
    </div>
    @if (problem(); as text) {
      <p class="issue" role="alert">{{ text }}</p>
    }
    @for (change of changes(); track change.revision) {
      <article>
        <p>
          <strong>{{ change.label || change.how }}</strong>
          @if (version().mayEdit) {
            <button matButton type="button" class="plain" (click)="takeBack(change.revision)">take back</button>
          }
        </p>
        <p class="thin">
          {{ moment(change.at) }} · {{ change.person }} · {{ change.how }} ·
          {{ change.scope === '*' ? 'all entities' : change.scope }}
        </p>
        <ul>
          @for (cell of change.shown; track $index) {
            <li>
              <span>{{ cell.place }}</span> <span class="figures">{{ cell.before }} → {{ cell.after }}</span>
            </li>
          }
          @if (change.more > 0) {
            <li class="thin">and {{ change.more }} more</li>
          }
        </ul>
      </article>
    } @empty {
      <p class="thin">
        {{
          isLoading()
            ? 'Reading the changes…'
            : filter()
              ? 'No change fits the filter.'
              : 'Nothing was changed here yet.'
        }}
      </p>
    }
    @if (before() !== null) {
      <button matButton [disabled]="isLoading()" (click)="load()">Show older changes</button>
    }
    @for (event of events(); track $index) {
      <article class="event">
        <p>{{ event.what }}</p>
        <p class="thin">{{ moment(event.at) }} · {{ event.person }}</p>
      </article>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 10px 14px;
    }
    .narrow {
      display: flex;
      gap: 8px;
      align-items: center;
      margin-bottom: 4px;
    }
    mat-form-field {
      flex: 1;
      min-width: 0;
    }
    article {
      padding: 6px 0;
      border-bottom: 1px solid var(--rule);
    }
    p {
      display: flex;
      justify-content: space-between;
      gap: 8px;
      margin: 0;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
    ul {
      margin: 3px 0 0;
      padding: 0;
      list-style: none;
      font-size: var(--small);
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 8px;
    }
    .figures {
      white-space: nowrap;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class ChangesPanel {
  readonly version = input.required<VersionView>();
  readonly figures = input.required<FigureWords>();
  /** Accounts and periods of the selected cells, joined by commas; undefined where none are selected. */
  readonly selected = input<{ accounts?: string; periods: string }>();
  /** Reads the sheet anew; called when the answer comes, also when another panel is shown by then. */
  readonly onChanged = input.required<() => void>();
  private readonly api = inject(VersionsApi);
  protected readonly moment = momentInWords;
  private readonly all = signal<VersionChanges['changes']>([]);
  /** The revision before which there are more. */
  protected readonly before = signal<VersionChanges['before']>(null);
  protected readonly isLoading = signal(true);
  private asking: Subscription | undefined;
  protected readonly problem = signal('');
  /** Only what changed the selected cells. */
  protected readonly ofSelection = signal(false);
  protected readonly filter = signal('');
  private readonly only = computed(() => (this.ofSelection() ? this.selected() : undefined), { equal: isSame });
  protected readonly events = computed(() =>
    this.only() ? [] : this.version().history.filter(({ what, person }) => this.isSought(what, person)),
  );

  protected readonly changes = computed(() => {
    const { place, amount } = this.figures();
    const sought = this.all().filter(({ label, how, person, scope }) => this.isSought(label, how, person, scope));
    return sought.map((change) => {
      const { scope } = change;
      const shown = change.cells.slice(0, 4).map((cell) => ({
        place: place(cell),
        before: amount({ ...cell, scope }, cell.before),
        after: amount({ ...cell, scope }, cell.after),
      }));
      return { ...change, shown, more: change.count - shown.length };
    });
  });

  constructor() {
    effect(() => {
      this.version();
      this.only();
      untracked(() => this.loadAnew());
    });
  }

  private isSought(...texts: string[]): boolean {
    const words = this.filter().trim().toLowerCase().split(/\s+/);
    const text = texts.join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  }

  private loadAnew(): void {
    this.all.set([]);
    this.before.set(null);
    this.load();
  }

  /** Reads the page behind what is shown. */
  protected load(): void {
    this.isLoading.set(true);
    this.asking?.unsubscribe();
    this.asking = this.api.versionChanges(this.version().code, this.before(), this.only()).subscribe({
      next: ({ changes, before }) => {
        this.all.update((shown) => [...shown, ...changes]);
        this.before.set(before);
        this.isLoading.set(false);
      },
      error: (error: ErrorReply) => this.problem.set(`${error.message} ${error.hint}`),
    });
  }

  protected takeBack(revision: number): void {
    this.api.takeBack(this.version().code, revision).subscribe({
      next: (saved) => {
        const places = saved.state === 'conflict' ? saved.cells.map(this.figures().place) : [];
        this.problem.set(places.length === 0 ? '' : `Not taken back: ${places.slice(0, 5).join('; ')} changed since.`);
        this.loadAnew();
        this.onChanged()();
      },
      error: (error: ErrorReply) => this.problem.set(`${error.message} ${error.hint}`),
    });
  }
}

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
