import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { dayOfYear, exactFigure, noteOf } from '@margin-lens/core/shown';
import type { TraceView } from '@margin-lens/contract';
import { NEW_STATEMENT, NO_FILTER } from '../shared/view-context';
import { labelWords, levelHeading, namedBy, proofOf, SUMS, unitAfter } from './lens-text';
import { CountPipe } from '../shared/count-pipe';

/** One level of the trace: its terms with bars, or its journal lines, and the line that proves it. */
@Component({
  selector: 'ml-trace-level',
  imports: [CountPipe, MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './trace-level.html',
  styleUrl: './trace-level.scss',
})
export class TraceLevel {
  readonly level = input.required<TraceView>();
  readonly opened = output<string>();
  readonly more = output();

  protected readonly heading = computed(() => levelHeading(this.level()));
  protected readonly proof = computed(() => proofOf(this.level()));
  protected readonly reason = computed(() => noteOf(this.level().figure));
  protected readonly terms = computed(() => {
    const level = this.level();
    const isSum = SUMS.has(level.operation);
    const by = namedBy(level);
    const largest = Math.max(...level.terms.map((term) => Math.abs(term.figure.amount ?? 0)), 1);
    return level.terms.map((term) => {
      const amount = term.figure.amount === null ? null : term.sign * term.figure.amount;
      const label = labelWords(term.label, by, level.operation === 'members');
      return {
        address: term.address,
        ...label,
        text: exactFigure({ ...term.figure, amount }) + (isSum ? '' : termUnit(unitAfter(term.figure), level)),
        title: [`${label.name} ${label.thin}`.trim(), noteOf(term.figure)].filter(Boolean).join('\n'),
        bar: isSum && amount !== null ? Math.abs(amount) / largest : undefined,
        /** A term that takes away from the figure instead of making it. */
        isContrary: amount !== null && amount < 0 !== (level.figure.amount ?? 0) < 0,
      };
    });
  });
  /** The address of the journal lines of a cell; nothing of a statement, and of another list, goes along. */
  protected readonly linesParams = computed(() => {
    const { lines } = this.level();
    return lines && { ...NEW_STATEMENT, ...NO_FILTER, ...lines, only: lines.only || null };
  });
  protected readonly lines = computed(() => {
    const { postings, figure } = this.level();
    return (postings?.lines ?? []).map((line) => ({
      ...line,
      day: line.date === '' ? '' : dayOfYear(line.date),
      text: exactFigure({ ...figure, amount: line.amount }),
      title:
        line.date === ''
          ? line.description
          : `${line.date} · journal ${line.journal}${line.document ? ` · ${line.document}` : ''}`,
    }));
  });
  protected readonly left = computed(() => (this.level().postings?.count ?? 0) - this.lines().length);
}

/** Percentages say so, and money that is not in the currency of the figure that it explains. */
function termUnit(unit: string, { figure, operation }: TraceView): string {
  const isOther = (operation === 'scaled' || operation === 'at_difference') && unit !== unitAfter(figure);
  return unit === '%' || isOther ? ` ${unit}` : '';
}
