import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { WorkspaceSetupStore } from './workspace-setup-store';
import { SaveKey } from '../shared/save-key';

/** Discard and Save of workspace settings, and what came of saving. */
@Component({
  selector: 'ml-save-bar',
  imports: [SaveKey, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span role="status" data-testid="says">{{ store.isSaved() && !store.isChanged() ? 'Saved' : '' }}</span>
    <button matButton="outlined" type="button" [disabled]="!store.isChanged()" (click)="store.discard()">
      Discard
    </button>
    <button
      matButton="filled"
      type="button"
      mlSaveKey
      data-testid="save"
      [disabled]="!store.isChanged() || store.isLoading()"
      (click)="store.save()"
    >
      Save
    </button>
  `,
  styles: `
    span {
      align-self: center;
      color: var(--ink-2);
    }
  `,
})
export class SaveBar {
  protected readonly store = inject(WorkspaceSetupStore);
}
