import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDividerModule } from '@angular/material/divider';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Beside, BESIDE } from '../shared/beside';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { WorkspaceStore } from '../shared/workspace-store';
import { placesBeside } from './places-beside';

/** Another place beside the one of the window: the same application once more, without its frame. */
@Component({
  selector: 'ml-beside-pane',
  imports: [MatButtonModule, MatDividerModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <button matButton type="button" class="plain" [matMenuTriggerFor]="places" data-testid="beside-place">
        <strong>{{ name() }}</strong>
        <mat-icon iconPositionEnd svgIcon="open" />
      </button>
      <mat-menu #places="matMenu">
        @for (group of groups(); track $index) {
          @if ($index > 0) {
            <mat-divider />
          }
          @for (place of group; track place.path) {
            <button mat-menu-item type="button" (click)="go(place.path)">{{ place.name }}</button>
          }
        }
      </mat-menu>
      <span class="spring"></span>
      <button matButton type="button" class="plain" title="Put this place on the left" (click)="swap()">Swap</button>
      <button
        matIconButton
        type="button"
        aria-label="Close the place beside"
        (click)="close()"
        data-testid="beside-close"
      >
        <mat-icon svgIcon="close" />
      </button>
    </div>
    <iframe #frame title="The place beside" data-testid="beside"></iframe>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-width: 0;
      min-height: 0;
      border-left: 1px solid var(--rule-strong);
    }
    .head {
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 2px 6px 2px 14px;
      border-bottom: 1px solid var(--rule);
      background: var(--paper);
    }
    .spring {
      flex: 1;
    }
    iframe {
      flex: 1;
      min-height: 0;
      border: 0;
    }
  `,
})
export class BesidePane {
  private readonly contexts = inject(ContextStore);
  private readonly beside = inject(Beside);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly frame = viewChild.required<ElementRef<HTMLIFrameElement>>('frame');

  /** Where the pane is, as it said last. */
  private at = '';
  /** Whether it has come. */
  private isThere = false;
  private readonly wanted = computed(() => String(this.contexts.params()[BESIDE] ?? ''));
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  protected readonly groups = computed(() => {
    const workspace = this.workspace();
    return workspace ? placesBeside(workspace) : [];
  });
  protected readonly name = computed(() => {
    const path = this.wanted().split('?')[0];
    return (
      this.groups()
        .flat()
        .find((place) => place.path === path)?.name ?? 'Beside'
    );
  });

  constructor() {
    this.beside.on('at', ({ path }) => {
      this.isThere = true;
      this.at = path;
      this.mirror();
    });
    effect(() => {
      const [path, { nativeElement }] = [this.wanted(), this.frame()];
      untracked(() => {
        if (this.beside.pane()) return this.mirror();
        this.at = path;
        nativeElement.src = this.inContext(path);
        this.beside.pane.set(nativeElement.contentWindow ?? undefined);
      });
    });
    inject(DestroyRef).onDestroy(() => this.beside.pane.set(undefined));
  }

  /** Brings the keyboard to the pane. */
  focus(): void {
    this.frame().nativeElement.focus();
    this.beside.send({ says: 'focus' });
  }

  protected go(path: string): void {
    this.beside.open(path);
  }

  protected close(): void {
    this.left(() => this.contexts.setParams({ [BESIDE]: null }));
  }

  protected swap(): void {
    const [there, here] = [this.at, this.contexts.addressWithout(BESIDE)];
    this.left(() => {
      this.at = here;
      void this.contexts.visit(there, { [BESIDE]: here }).then((isThere) => {
        if (!isThere) this.at = there;
        this.beside.open(this.at);
      });
    });
  }

  /** The address follows the pane, and not the other way round: what is on its way there may be of before. */
  private mirror(): void {
    if (this.at !== this.wanted()) this.contexts.setParams({ [BESIDE]: this.at }, true);
  }

  /** Has the pane leave what it shows, so that nothing of it is lost, and goes on; at once where it has not come yet. */
  private left(goOn: () => void): void {
    if (!this.isThere) return goOn();
    this.beside.on('left', goOn);
    this.beside.send({ says: 'leave' });
  }

  /** The address of a place with the as at and scope of the window. */
  private inContext(path: string): string {
    const context = this.contexts.context();
    const [place, query = ''] = path.split('?') as [string, string?];
    const params = new URLSearchParams(query);
    if (context) params.set('scope', context.scope.code);
    if (context) params.set('as_at', asAtText(context.asAt));
    return `${place}?${params}`;
  }
}
