import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { RouterOutlet } from '@angular/router';
import { CommandPalette } from './frame/command-palette';
import { Foot } from './frame/foot';
import { KeysDialog } from './frame/keys-dialog';
import { PeriodRuler } from './frame/period-ruler';
import { Spine } from './frame/spine';
import { TopBar } from './frame/top-bar';
import { ContextStore } from './shared/context-store';
import { WorkspaceStore } from './shared/workspace-store';

const isEditable = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** The frame around every screen: top bar, ruler, spine, sheet, foot, and the keys that work everywhere. */
@Component({
  selector: 'ml-root',
  imports: [Foot, MatButtonModule, PeriodRuler, RouterOutlet, Spine, TopBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './app.html',
  styleUrl: './app.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class App {
  private readonly dialog = inject(MatDialog);
  private readonly context = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  protected readonly failure = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'failed' ? state.error : undefined;
  });
  protected readonly isLoading = computed(() => this.workspaces.state().state === 'loading');

  protected retry(): void {
    this.workspaces.reload();
  }

  protected openPalette(): void {
    if (this.dialog.openDialogs.length === 0) {
      this.dialog.open(CommandPalette, {
        width: '560px',
        position: { top: '72px' },
        autoFocus: false,
        enterAnimationDuration: 0,
        panelClass: 'in-place',
      });
    }
  }

  protected openKeys(): void {
    if (this.dialog.openDialogs.length === 0) this.dialog.open(KeysDialog, { width: '460px' });
  }

  protected onKey(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      this.openPalette();
      return;
    }
    const hasModifier = event.ctrlKey || event.metaKey || event.altKey;
    if (hasModifier || isEditable(event.target) || this.dialog.openDialogs.length > 0) return;
    if (event.key === ',') this.context.stepAsAt(-1);
    else if (event.key === '.') this.context.stepAsAt(1);
    else if (event.key === '?') this.openKeys();
    else if (event.key.toLowerCase() === 's' && this.context.path().startsWith('/statements'))
      this.context.setShaped(!this.context.context()?.isShaped);
    else if (event.key.toLowerCase() === 'c' && this.context.path().startsWith('/statements'))
      this.context.toggleCharts();
    else return;
    event.preventDefault();
  }
}
