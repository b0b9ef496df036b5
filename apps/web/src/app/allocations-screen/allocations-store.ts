import { Injectable } from '@angular/core';
import type { AllocationDocument } from '@margin-lens/core';
import { EditedByDimension } from '../shared/edited-by-dimension';
import { NEW } from '../shared/edited-document';

/** The allocation that is open: as it is kept, and as it stands in the form. */
@Injectable()
export class AllocationsStore extends EditedByDimension<AllocationDocument> {
  protected readonly kind = 'allocation';
  readonly path = '/allocations';

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
