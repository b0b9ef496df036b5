import { computed, signal } from '@angular/core';
import type { AllocationDocument, CompletionDocument } from '@margin-lens/core';
import { asked } from './asked';
import { EditedDocument } from './edited-document';

/** A value of a dimension, and how far down its tree it stands. */
export interface TreeValue {
  value: string;
  name: string;
  depth: number;
}

/** Documents that say something of the values of one dimension, with what they are made of. */
export abstract class EditedByDimension<D extends AllocationDocument | CompletionDocument> extends EditedDocument<D> {
  private readonly asking = asked(signal({}).asReadonly(), () => this.api.makings());
  readonly makings = this.asking.state;
  readonly dimensions = computed(() => this.makings().view?.dimensions ?? []);
  readonly accounts = computed(() => this.makings().view?.accounts ?? []);
  /** Values of the dimension of what is open, in the order of their tree. */
  readonly values = computed(() => {
    const tree = this.tree();
    const below = (parent: string, depth: number): TreeValue[] =>
      tree
        .filter((each) => each.parent === parent)
        .flatMap(({ value, name }) => [{ value, name: name || value, depth }, ...below(value, depth + 1)]);
    return below('', 0);
  });

  /** What the document that is open says something of, with what each stands below. */
  protected tree(): readonly { value: string; name: string; parent: string }[] {
    return this.dimensions().find(({ name }) => name === this.draft()?.dimension)?.values ?? [];
  }

  /** Asks once more for what documents are made of, after a failure. */
  retry(): void {
    this.asking.again();
  }
}
