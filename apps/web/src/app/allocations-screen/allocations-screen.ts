import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { AccountSetField } from '../shape/account-set-field';
import type { HoldsUnsaved } from '../setup-screen/unsaved-guard';
import { InWordsPipe } from '../shared/in-words-pipe';
import { Choice } from '../shared/choice';
import { EditedScreen } from '../shared/edited-screen';
import { movedAt, nextId, replacedAt, withoutAt } from '../shared/listed';
import { AllocationEffect } from './allocation-effect';
import { AllocationsStore } from './allocations-store';
import { StepEditor, type Step } from './step-editor';

/** How shared costs are spread over departments, products or any other dimension, or over entities, and what that does. */
@Component({
  selector: 'ml-allocations-screen',
  imports: [
    AccountSetField,
    AllocationEffect,
    Choice,
    InWordsPipe,
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    EditedScreen,
    StepEditor,
  ],
  providers: [AllocationsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './allocations-screen.html',
  styleUrls: ['../shared/listing.scss', './allocations-screen.scss'],
})
export class AllocationsScreen implements HoldsUnsaved {
  /** Of the address: the allocation that is open, or `new`. */
  readonly id = input<string>();

  protected readonly store = inject(AllocationsStore);
  protected readonly draft = this.store.draft;
  protected readonly says = computed(() => {
    const count = this.store.list().length;
    if (count === 0) return 'Shared costs, spread when they are read: nothing is posted';
    return `${count === 1 ? 'One way' : `${count} ways`} to spread shared costs; nothing is posted, each can be switched off`;
  });

  unsaved(): number {
    return this.store.unsaved();
  }

  protected addStep(): void {
    const { steps } = this.draft()!;
    const step: Step = {
      ...{ id: nextId('step', steps), name: `Step ${steps.length + 1}`, from: [], to: [] },
      key: { by: 'fixed', weights: [] },
    };
    this.store.change({ steps: [...steps, step] });
  }

  protected putStep(at: number, step: Step): void {
    this.store.change({ steps: replacedAt(this.draft()!.steps, at, step) });
  }

  protected moveStep(at: number, by: -1 | 1): void {
    this.store.change({ steps: movedAt(this.draft()!.steps, at, by) });
  }

  protected removeStep(at: number): void {
    this.store.change({ steps: withoutAt(this.draft()!.steps, at) });
  }
}
