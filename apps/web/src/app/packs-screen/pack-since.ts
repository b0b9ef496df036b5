import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { ErrorReply } from '@margin-lens/contract';
import { asked } from '../shared/asked';
import { ErrorState } from '../shared/error-state';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { PackStore } from './pack-store';
import { PacksApi } from './packs-api';

/** Labels that are named of a page; the others are counted. */
const NAMED = 6;

const named = (labels: readonly string[]): string =>
  labels.length > NAMED ? `${labels.slice(0, NAMED).join(', ')} and ${labels.length - NAMED} more` : labels.join(', ');

/** What is new, gone and moved since the pack of the month before, and whether this one is issued. */
@Component({
  selector: 'ml-pack-since',
  imports: [ErrorState, MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (state().isLoading) {
      <mat-progress-bar mode="indeterminate" aria-label="Looking at the month before" />
    }
    @if (failure(); as failure) {
      <p class="adverse" role="alert">{{ failure.message }} {{ failure.hint }}</p>
    }
    @if (state().error; as error) {
      <ml-error-state [error]="error" (retry)="asking.again()" />
    } @else if (state().view; as view) {
      @if (view.before; as before) {
        <h2>Since {{ before.name }}</h2>
        <p class="thin">
          {{
            before.issued
              ? 'Its pack was issued by ' + before.issued.person + ', ' + moment(before.issued.at)
              : 'Nobody said that its pack was issued, so that what moved in it since cannot be told'
          }}
        </p>
        @for (page of pages(); track page.page) {
          <section data-testid="since">
            <button matButton class="plain" type="button" (click)="store.choose(page.page)">{{ page.title }}</button>
            @for (line of page.lines; track line.name) {
              <p>
                <span class="thin">{{ line.name }}</span> {{ line.says }}
              </p>
            }
            @if (page.moved.length > 0) {
              <table>
                <caption class="thin">
                  Moved in
                  {{
                    before.name
                  }}
                </caption>
                <tbody>
                  @for (each of page.moved; track $index) {
                    <tr>
                      <th scope="row">
                        {{ each.label }} <span class="thin">{{ each.column }}</span>
                      </th>
                      <td>{{ each.was || '–' }} → {{ each.now || '–' }}</td>
                    </tr>
                  }
                </tbody>
              </table>
              @if (page.more > 0) {
                <p class="thin">and {{ page.more }} more</p>
              }
            }
          </section>
        } @empty {
          <p data-testid="nothing">No row is new or gone, and no figure moved.</p>
        }
      } @else {
        <p class="thin">There is no month before this one.</p>
      }
      <footer>
        <strong>{{ view.asAt.name }}</strong>
        @if (view.issued; as issued) {
          <p data-testid="issued">Issued by {{ issued.person }}, {{ moment(issued.at) }}</p>
          <button matButton="outlined" type="button" (click)="issue(false)">Take that back</button>
        } @else {
          <p class="thin">Not issued yet. Once it is, next month says what moved in it since.</p>
          <button
            matButton="outlined"
            type="button"
            [disabled]="store.isNew() || store.isChanged()"
            title="A pack is saved before it is issued"
            data-testid="issue"
            (click)="issue(true)"
          >
            Mark as issued
          </button>
        }
      </footer>
    }
  `,
  styleUrl: './pack-since.scss',
})
export class PackSincePanel {
  protected readonly store = inject(PackStore);
  private readonly api = inject(PacksApi);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly moment = momentInWords;

  protected readonly asking = asked(this.store.question, ({ pack, context }) => this.api.packSince(pack, context));
  protected readonly state = this.asking.state;
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly pages = computed(() =>
    (this.state().view?.pages ?? [])
      .map((page) => ({
        ...page,
        lines: [
          { name: 'New:', says: named(page.added) },
          { name: 'Gone:', says: named(page.gone) },
        ].filter(({ says }) => says !== ''),
      }))
      .filter(({ lines, moved }) => lines.length + moved.length > 0),
  );

  protected issue(isIssued: boolean): void {
    const question = this.store.question();
    if (!question) return;
    const { scope, as_at } = question.context;
    this.failure.set(undefined);
    this.api.issuePack(question.pack.id, { scope, as_at, isIssued }).subscribe({
      next: () => {
        this.asking.again();
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }
}
