import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { WorkspaceSetupStore } from './workspace-setup-store';

/** Title of a screen of workspace settings, with Discard and Save, and what came of saving. */
@Component({
  selector: 'ml-save-bar',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <div class="title">
        <h1>{{ title() }}</h1>
        <p data-testid="subtitle">{{ subtitle() }}</p>
      </div>
      <span role="status" data-testid="says">{{ store.isSaved() && !store.isChanged() ? 'Saved' : '' }}</span>
      <button matButton="outlined" type="button" [disabled]="!store.isChanged()" (click)="store.discard()">
        Discard
      </button>
      <button
        matButton="filled"
        type="button"
        data-testid="save"
        [disabled]="!store.isChanged() || store.isLoading()"
        (click)="store.save()"
      >
        Save
      </button>
    </header>
    @if (store.refused(); as refused) {
      <p class="issue" role="alert" data-testid="issue">
        <strong>{{ refused.message }}</strong> {{ refused.hint }}
      </p>
    }
  `,
  styleUrls: ['../shared/screen-frame.scss', './setup-form.scss'],
  styles: ':host { display: block; height: auto; } span { align-self: center; color: var(--ink-2); }',
})
export class SaveBar {
  readonly title = input.required<string>();
  readonly subtitle = input.required<string>();
  protected readonly store = inject(WorkspaceSetupStore);
}
