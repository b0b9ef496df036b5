import { computed, inject, Injectable, signal } from '@angular/core';
import type { ErrorReply, WorkspaceSetupView } from '@margin-lens/contract';
import { SetupApi } from '../shared/setup-api';
import { WorkspaceStore } from '../shared/workspace-store';

export type WorkspaceDraft = Pick<WorkspaceSetupView, 'settings' | 'retainedEarnings'>;

/** Settings of the workspace under edit: as they are saved, and what was changed in them. */
@Injectable()
export class WorkspaceSetupStore {
  private readonly api = inject(SetupApi);
  private readonly workspaces = inject(WorkspaceStore);

  readonly view = signal<WorkspaceSetupView | undefined>(undefined);
  readonly draft = signal<WorkspaceDraft | undefined>(undefined);
  /** What could not be read; what could not be saved. */
  readonly error = signal<ErrorReply | undefined>(undefined);
  readonly refused = signal<ErrorReply | undefined>(undefined);
  readonly isLoading = signal(true);
  readonly isSaved = signal(false);
  readonly isChanged = computed(() => {
    const [view, draft] = [this.view(), this.draft()];
    return view !== undefined && draft !== undefined && JSON.stringify(draftOf(view)) !== JSON.stringify(draft);
  });

  load(): void {
    this.isLoading.set(true);
    this.error.set(undefined);
    this.api.workspaceSetup().subscribe({
      next: (view) => this.take(view),
      error: (error: ErrorReply) => {
        this.isLoading.set(false);
        this.error.set(error);
      },
    });
  }

  change(part: Partial<WorkspaceDraft>): void {
    this.isSaved.set(false);
    this.draft.update((draft) => draft && { ...draft, ...part });
  }

  changeSettings(part: Partial<WorkspaceDraft['settings']>): void {
    const draft = this.draft();
    if (draft) this.change({ settings: { ...draft.settings, ...part } });
  }

  discard(): void {
    // what someone else has saved meanwhile is only seen when it is read again
    if (this.refused()) return this.load();
    const view = this.view();
    if (view) this.draft.set(draftOf(view));
  }

  save(): void {
    const [view, draft] = [this.view(), this.draft()];
    if (!view || !draft) return;
    this.isLoading.set(true);
    this.api.saveWorkspaceSetup({ base: view.revision, ...draft }).subscribe({
      next: (view) => {
        this.take(view);
        this.isSaved.set(true);
        this.workspaces.reload();
      },
      error: (error: ErrorReply) => {
        this.isLoading.set(false);
        this.refused.set(error);
      },
    });
  }

  private take(view: WorkspaceSetupView): void {
    this.view.set(view);
    this.draft.set(draftOf(view));
    this.refused.set(undefined);
    this.isLoading.set(false);
  }
}

const draftOf = ({ settings, retainedEarnings }: WorkspaceSetupView): WorkspaceDraft => ({
  settings,
  retainedEarnings,
});
