import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Screen } from '../shared/screen';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { BooksFindingView } from '@margin-lens/contract';
import { BOOKS_CHECKS, CHECKS_OF_HISTORY, HISTORY_NEEDED } from '@margin-lens/core';
import { amountText } from '../ledger-screen/ledger-text';
import { BooksCheckStore } from '../shared/books-check-store';
import { ContextStore } from '../shared/context-store';
import { momentInWords } from '../shared/moment';
import { openFindings } from '../shared/open-findings';
import { CHECK_WORDS, findingWords, linesOfFinding } from './books-check-text';

const SIGNS = { fit: '✓', open: '!', unknown: '–' } as const;

/** Whether the books are fit to report on: what was found, its effect on profit, the way to it, and what was said of it. */
@Component({
  selector: 'ml-books-check-screen',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './books-check-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './books-check-screen.scss'],
})
export class BooksCheckScreen {
  protected readonly store = inject(BooksCheckStore);
  private readonly contexts = inject(ContextStore);
  protected readonly state = this.store.state;
  protected readonly SIGNS = SIGNS;
  /** Key of the finding whose reason is being written. */
  protected readonly writing = signal<string | undefined>(undefined);

  private readonly reason = viewChild<ElementRef<HTMLInputElement>>('reason');

  constructor() {
    effect(() => this.reason()?.nativeElement.focus());
  }

  protected readonly subtitle = computed(() => {
    const view = this.state().view;
    if (!view) return '';
    const limit = amountText(view.limit, view.scope.currency);
    return `${view.scope.name} · ${view.scope.currency} · ${view.asAt.name} · amounts from ${limit}, 0.2 % of the year’s income`;
  });
  /** Months with postings, the as-at one included. */
  private readonly posted = computed(() => this.contexts.context()?.postedMonths ?? 0);
  protected readonly verdict = computed((): { state: keyof typeof SIGNS; words: string } => {
    const view = this.state().view;
    if (!view || this.posted() === 0) return { state: 'unknown', words: 'There is nothing to check yet.' };
    const open = openFindings(view);
    if (open.length === 0) return { state: 'fit', words: 'Nothing is left to look at.' };
    const effect = open.reduce((sum, finding) => sum + (finding.effect ?? 0), 0);
    const many = open.length === 1 ? 'One finding is' : `${open.length} findings are`;
    const profit =
      effect === 0 ? '' : ` Put right, they would change the profit by ${amountText(effect, view.scope.currency)}.`;
    return { state: 'open', words: `${many} to be looked at.${profit}` };
  });
  protected readonly checks = computed(() => {
    const view = this.state().view;
    if (!view) return [];
    const isShort = this.posted() <= HISTORY_NEEDED;
    return BOOKS_CHECKS.map((check) => ({
      id: check,
      ...CHECK_WORDS[check],
      ...(isShort &&
        CHECKS_OF_HISTORY.has(check) && {
          why: `Too little history to say: it takes ${HISTORY_NEEDED} months before.`,
        }),
      findings: view.findings
        .filter((finding) => finding.check === check)
        .map((finding) => ({
          ...finding,
          words: findingWords(finding, view),
          lines: linesOfFinding(finding),
          effectText: finding.effect === null ? '' : amountText(finding.effect, view.scope.currency),
          seenWords: finding.seen
            ? `Seen, because ${finding.seen.reason} · ${finding.seen.person}, ${momentInWords(finding.seen.at)}`
            : '',
        })),
    }))
      .map((check) => ({
        ...check,
        sign:
          check.findings.length > 0
            ? String(check.findings.length)
            : this.posted() === 0 || (isShort && CHECKS_OF_HISTORY.has(check.id))
              ? '–'
              : '✓',
      }))
      .sort((a, b) => Number(b.findings.length > 0) - Number(a.findings.length > 0));
  });

  protected say(finding: BooksFindingView, reason: string): void {
    const scope = this.state().view!.scope.code;
    this.writing.set(undefined);
    if (reason.trim() !== '' || finding.seen) this.store.mark({ scope, key: finding.key, reason: reason.trim() });
  }
}
