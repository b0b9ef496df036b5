import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { freshId, type AllocationDocument } from '@margin-lens/core';
import { AccountSetField } from '../shape/account-set-field';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { ContextStore } from '../shared/context-store';
import { EmptyState } from '../shared/empty-state';
import { InWordsPipe } from '../shared/in-words-pipe';
import { Screen } from '../shared/screen';
import { UndoBar } from '../shared/undo-bar';
import { WorkspaceStore } from '../shared/workspace-store';
import { AllocationEffect } from './allocation-effect';
import { AllocationsStore } from './allocations-store';
import { StepEditor, type Step } from './step-editor';

/** What a new allocation begins with. */
const NEW = 'new';

/** How shared costs are spread over departments, products or any other dimension, and what that does. */
@Component({
  selector: 'ml-allocations-screen',
  imports: [
    AccountSetField,
    AllocationEffect,
    EmptyState,
    InWordsPipe,
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatSelectModule,
    RouterLink,
    Screen,
    StepEditor,
  ],
  providers: [AllocationsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './allocations-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss', './allocations-screen.scss'],
})
export class AllocationsScreen implements HoldsUnsaved {
  /** Of the address: the allocation that is open, or `new`. */
  readonly id = input<string>();

  protected readonly store = inject(AllocationsStore);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });

  private readonly undoBar = inject(UndoBar);
  /** What was put away last; the list follows a moment later. */
  private readonly away = signal<string | undefined>(undefined);
  protected readonly list = computed(() =>
    (this.workspace()?.allocations ?? []).filter(({ id }) => id !== this.away()),
  );
  protected readonly revision = computed(() => this.workspace()?.revision ?? 0);
  protected readonly draft = this.store.draft;
  protected readonly makings = this.store.makings;
  protected readonly dimensions = computed(() => this.makings().view?.dimensions ?? []);
  protected readonly accounts = computed(() => this.makings().view?.accounts ?? []);
  /** Values of the dimension in the order of their tree. */
  protected readonly values = computed(() => {
    const tree = this.dimensions().find(({ name }) => name === this.draft()?.dimension)?.values ?? [];
    const below = (parent: string, depth: number): { value: string; name: string; depth: number }[] =>
      tree
        .filter((each) => each.parent === parent)
        .flatMap(({ value, name }) => [{ value, name: name || value, depth }, ...below(value, depth + 1)]);
    return below('', 0);
  });
  protected readonly says = computed(() => {
    const count = this.list().length;
    if (count === 0) return 'Shared costs, spread when they are read: nothing is posted';
    return `${count === 1 ? 'One way' : `${count} ways`} to spread shared costs; nothing is posted, each can be switched off`;
  });

  constructor() {
    effect(() => {
      const id = this.id();
      const [first] = this.list();
      const [dimension] = this.dimensions();
      untracked(() => {
        if (id === NEW) {
          if (dimension && !this.store.isNew()) this.store.begin(blank(dimension.name));
        } else if (id !== undefined) {
          if (this.store.draft()?.id !== id) this.store.open(id);
        } else if (first) this.contexts.goTo(`/allocations/${first.id}`, {});
        else this.store.close();
      });
    });
  }

  unsaved(): number {
    return this.store.isChanged() && !this.store.isSaving() ? 1 : 0;
  }

  protected rename(name: string): void {
    this.store.change({ name });
  }

  protected addStep(): void {
    const draft = this.draft()!;
    const taken = new Set(draft.steps.map(({ id }) => id));
    let at = draft.steps.length + 1;
    while (taken.has(`step_${at}`)) at++;
    const step: Step = {
      ...{ id: `step_${at}`, name: `Step ${at}`, from: [], to: [] },
      key: { by: 'fixed', weights: [] },
    };
    this.store.change({ steps: [...draft.steps, step] });
  }

  protected putStep(at: number, step: Step): void {
    this.store.change({ steps: this.draft()!.steps.map((each, place) => (place === at ? step : each)) });
  }

  protected moveStep(at: number, by: -1 | 1): void {
    const steps = [...this.draft()!.steps];
    const [step] = steps.splice(at, 1);
    steps.splice(at + by, 0, step!);
    this.store.change({ steps });
  }

  protected removeStep(at: number): void {
    this.store.change({ steps: this.draft()!.steps.filter((_, place) => place !== at) });
  }

  protected save(over?: number): void {
    const draft = this.draft()!;
    if (this.store.isNew()) this.store.change({ id: freshId(draft.name, new Set([NEW])) });
    this.store.save(over).subscribe((id) => this.contexts.goTo(`/allocations/${id}`, {}));
  }

  /** Puts it away, so that nothing is read with it any more; it can be brought back. */
  protected putAway(): void {
    const { id, name } = this.draft()!;
    this.store.discard();
    this.store.change({ archived: true });
    this.store.save().subscribe(() => {
      this.away.set(id);
      this.store.close();
      this.contexts.goTo('/allocations', {});
      this.undoBar
        .offer(`${name} is put away`, () => this.store.bringBack(id))
        .subscribe(() => {
          this.away.set(undefined);
          this.contexts.goTo(`/allocations/${id}`, {});
        });
    });
  }

  protected discard(): void {
    this.store.discard();
    if (this.id() === NEW) {
      this.store.close();
      this.contexts.goTo('/allocations', {});
    }
  }

  protected readonly NEW = NEW;
}

const blank = (dimension: string): AllocationDocument => ({
  ...{ schema: 1, kind: 'allocation', id: NEW, name: 'Shared costs', dimension },
  ...{ accounts: { include: [{ by: 'nature', nature: 'expense' }] }, method: 'step_down', steps: [] },
});
