import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { StatementView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';

/** Says of a statement that is read that a draft of it waits, which its figures do not show. */
@Component({
  selector: 'ml-draft-notice',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drafted().length > 0) {
      <p role="status" data-testid="draft-waits">
        A draft of {{ drafted().join(' and ') }} is not kept yet; the figures are as it was kept.
        <button matButton type="button" class="plain" (click)="shape.emit()">Go on in Shape</button>
      </p>
    }
  `,
  styles: `
    p {
      margin: 0 14px 6px;
      color: var(--ink-2);
    }
  `,
})
export class DraftNotice {
  /** What is read. */
  readonly shown = input.required<Pick<StatementView, 'id' | 'rowLayout' | 'columnLayout'>>();
  readonly shape = output();

  private readonly api = inject(Api);
  private readonly question = computed(() => {
    const { id, rowLayout, columnLayout } = this.shown();
    return { statement: id, row_layout: rowLayout.id, column_layout: columnLayout.id };
  });
  private readonly library = asked(this.question, () => this.api.library()).state;
  /** What of the statement there are drafts of, in words. */
  protected readonly drafted = computed(() => {
    const of = this.question();
    const documents = this.library().view?.documents ?? [];
    const waits = (kind: keyof typeof of) =>
      documents.some((each) => each.kind === kind && each.id === of[kind] && each.hasDraft);
    return (['row_layout', 'column_layout', 'statement'] as const).filter(waits).map((kind) => WORDS[kind]);
  });
}

const WORDS = { row_layout: 'its rows', column_layout: 'its columns', statement: 'how it is presented' } as const;
