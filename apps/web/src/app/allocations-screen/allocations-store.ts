import { computed, Injectable } from '@angular/core';
import { isOverEntities, type AllocationDocument } from '@margin-lens/core';
import { EditedByDimension } from '../shared/edited-by-dimension';
import { NEW } from '../shared/edited-document';

/** What entities are spread over by, as breakdowns name them. */
const ENTITY = 'entity';

/** The allocation that is open: as it is kept, and as it stands in the form. */
@Injectable()
export class AllocationsStore extends EditedByDimension<AllocationDocument> {
  protected readonly kind = 'allocation';
  readonly path = '/allocations';

  readonly isOverEntities = computed(() => {
    const draft = this.draft();
    return draft !== undefined && isOverEntities(draft);
  });
  /** Accounts by which entities can owe each other. */
  readonly clearingAccounts = computed(() =>
    this.accounts()
      .filter(({ nature }) => nature === 'asset' || nature === 'liability')
      .map(({ number, name }) => ({ value: number, name: `${number} ${name}` })),
  );

  /** @param dimension empty for entities */
  spreadOver(dimension: string): void {
    const { clearing: _, ...draft } = this.draft()!;
    const over = dimension === '' ? { dimension: ENTITY, clearing: { receivable: '', payable: '' } } : { dimension };
    this.draft.set({ ...draft, ...over, steps: [] });
  }

  putClearing(part: Partial<NonNullable<AllocationDocument['clearing']>>): void {
    this.draft.update((draft) => draft?.clearing && { ...draft, clearing: { ...draft.clearing, ...part } });
  }

  protected override tree() {
    if (!this.isOverEntities()) return super.tree();
    return (this.workspace()?.entities ?? []).map(({ code, name }) => ({ value: code, name, parent: '' }));
  }

  protected listed() {
    return this.workspace()?.allocations ?? [];
  }

  protected blank(): AllocationDocument | undefined {
    const [dimension] = this.makings().view?.dimensions ?? [];
    return (
      dimension && {
        ...{ schema: 1, kind: 'allocation', id: NEW, name: 'Shared costs', dimension: dimension.name },
        ...{ accounts: { include: [{ by: 'nature', nature: 'expense' }] }, method: 'step_down', steps: [] },
      }
    );
  }
}
