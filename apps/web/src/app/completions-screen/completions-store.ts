import { Injectable } from '@angular/core';
import type { CompletionDocument } from '@margin-lens/core';
import { inWords } from '@margin-lens/core/shown';
import { EditedByDimension } from '../shared/edited-by-dimension';
import { NEW } from '../shared/edited-document';

/** The completion that is open: as it is kept, and as it stands in the form. */
@Injectable()
export class CompletionsStore extends EditedByDimension<CompletionDocument> {
  protected readonly kind = 'completion';
  readonly path = '/ledger/missing-values';

  protected listed() {
    return this.workspace()?.completions ?? [];
  }

  protected blank(): CompletionDocument | undefined {
    const taken = new Set(this.workspace()?.completions.map(({ dimension }) => dimension));
    const dimensions = this.makings().view?.dimensions ?? [];
    const dimension = dimensions.find(({ name }) => !taken.has(name)) ?? dimensions[0];
    return (
      dimension && {
        ...{ schema: 1, kind: 'completion', id: NEW, name: `Missing ${inWords(dimension.name)}` },
        ...{ dimension: dimension.name, rules: [] },
      }
    );
  }
}
