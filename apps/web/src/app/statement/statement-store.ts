import { computed, inject, Injectable } from '@angular/core';
import { asked } from '../shared/asked';
import { tap } from 'rxjs';
import type { StatementContext } from '@margin-lens/contract';
import { CHART_COLUMNS } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { asAtText, type ViewContext } from '../shared/view-context';
import { ShownStatement } from '../shared/shown-statement';

/** The question that a context asks of the server; charts read columns of their own, and no row laid open. */
export const questionOf = (context: ViewContext): StatementContext => ({
  scope: context.scope.code,
  as_at: asAtText(context.asAt),
  columns: context.isCharted ? CHART_COLUMNS : context.columns,
  ...(context.totals && !context.isCharted ? { totals: context.totals } : {}),
  ...(context.currency === context.scope.currency ? {} : { currency: context.currency }),
  ...(context.version ? { version: context.version } : {}),
  ...(context.against ? { against: context.against } : {}),
  ...(context.demands === undefined ? {} : { where: context.demands }),
  ...(context.allocation ? { allocation: context.allocation } : {}),
  ...(context.basis ? { basis: context.basis } : {}),
  ...(context.organised ? { organised: context.organised } : {}),
  ...(context.breakdown === undefined ? {} : { breakdown: context.breakdown }),
  ...(context.open.length > 0 && !context.isCharted ? { open: context.open.join(',') } : {}),
});

/** Fetches the statement of the URL's context; only the latest question counts. */
@Injectable()
export class StatementStore {
  private readonly api = inject(Api);
  private readonly shown = inject(ShownStatement);
  private readonly contexts = inject(ContextStore);

  private readonly questions = computed(() => {
    const context = this.contexts.context();
    return context && { id: context.statement, question: questionOf(context) };
  });

  private readonly asking = asked(this.questions, ({ id, question }) =>
    this.api
      .statement(id, question)
      .pipe(tap({ next: (view) => this.shown.view.set(view), error: () => this.shown.view.set(undefined) })),
  );
  readonly state = this.asking.state;

  retry(): void {
    this.asking.again();
  }

  stop(): void {
    this.asking.stop();
  }
}
