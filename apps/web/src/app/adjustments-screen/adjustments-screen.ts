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
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { BehaviorSubject } from 'rxjs';
import type { AdjustmentsView, ErrorReply, IssueView } from '@margin-lens/contract';
import { dayShort, digitsOf, formatMinor, parseAmount, readNumber } from '@margin-lens/core';
import { amountText, NO_LINES } from '../ledger-screen/ledger-text';
import { Api } from '../shared/api';
import { ErrorState } from '../shared/error-state';
import { ContextStore } from '../shared/context-store';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from '../shared/latest-answer';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';

interface DraftLine {
  account: string;
  description: string;
  debit: string;
  credit: string;
}

const EMPTY_LINE: DraftLine = { account: '', description: '', debit: '', credit: '' };
const isBlank = ({ account, description, debit, credit }: DraftLine) =>
  [account, description, debit, credit].every((text) => text.trim() === '');

/** Minor units of an amount as typed; undefined when it is none. */
function minorOf(text: string, digits: number): number | undefined {
  const read = text.trim() === '' ? { plain: '0' } : readNumber(text, '.');
  const parsed = read && parseAmount(read.plain, digits);
  return parsed && 'minor' in parsed ? parsed.minor : undefined;
}

/** Adjustment journals by hand: those there are, and a new one that must balance before it can be posted. */
@Component({
  selector: 'ml-adjustments-screen',
  imports: [ErrorState, MatProgressBarModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './adjustments-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './adjustments-screen.scss'],
})
export class AdjustmentsScreen {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly reasonField = viewChild<ElementRef<HTMLInputElement>>('reasonField');
  private readonly retries = new BehaviorSubject<void>(undefined);
  protected readonly NO_LINES = NO_LINES;

  private readonly scope = computed(() => this.contexts.context()?.scope.code);
  protected readonly state = toSignal(
    latestAnswer(questionsOf(toObservable(this.scope), this.retries), (scope) => this.api.adjustments(scope)),
    { initialValue: NO_ANSWER as Answer<AdjustmentsView> },
  );

  protected readonly isWriting = signal(false);
  protected readonly date = signal('');
  protected readonly reason = signal('');
  protected readonly reverses = signal(false);
  protected readonly lines = signal<readonly DraftLine[]>([]);
  protected readonly issues = signal<readonly IssueView[]>([]);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  protected readonly currency = computed(() => this.state().view?.scope.currency ?? 'EUR');
  private readonly digits = computed(() => digitsOf(this.currency()));
  private readonly names = computed(
    () => new Map(this.state().view?.accounts.map(({ number, name }) => [number, name])),
  );
  protected readonly rows = computed(() =>
    this.lines().map((line, index) => ({
      ...line,
      name: this.names().get(line.account.trim()) ?? (line.account.trim() === '' ? '' : 'no such account'),
      isUnknown: line.account.trim() !== '' && !this.names().has(line.account.trim()),
      wrongDebit: minorOf(line.debit, this.digits()) === undefined,
      wrongCredit: minorOf(line.credit, this.digits()) === undefined,
      index,
    })),
  );
  protected readonly sums = computed(() => {
    const sum = (side: 'debit' | 'credit') =>
      this.lines().reduce((total, line) => total + (minorOf(line[side], this.digits()) ?? 0), 0);
    const [debit, credit] = [sum('debit'), sum('credit')];
    return {
      debit: amountText(debit, this.currency()),
      credit: amountText(credit, this.currency()),
      agrees: debit === credit && debit !== 0,
      words:
        debit === credit
          ? debit === 0
            ? ''
            : '✓ Debits and credits agree'
          : `Off by ${amountText(debit - credit, this.currency())}`,
    };
  });
  protected readonly canPost = computed(() => {
    const filled = this.rows().filter((row) => !isBlank(row));
    const isSound = filled.every(
      ({ isUnknown, wrongDebit, wrongCredit, account }) =>
        account.trim() !== '' && !isUnknown && !wrongDebit && !wrongCredit,
    );
    return this.sums().agrees && isSound && filled.length > 1 && this.reason().trim() !== '' && this.date() !== '';
  });
  /** The date in words with its period, since fields show dates in the order of the browser. */
  protected readonly dateWords = computed(() => {
    const date = this.date();
    if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) return 'Date';
    const period = this.contexts
      .context()
      ?.periods.find(({ kind, start, end }) => kind === 'regular' && date >= start && date <= end);
    return `${dayShort(date)} · ${period?.key ?? 'outside the calendar'}`;
  });
  protected readonly adjustments = computed(() =>
    (this.state().view?.adjustments ?? []).map((row) => ({
      ...row,
      day: dayShort(row.date),
      amountText: amountText(row.amount, this.currency()),
      made: `${row.person}, ${momentInWords(row.at)}`,
    })),
  );

  constructor() {
    // a new adjustment begins with its reason
    effect(() => this.reasonField()?.nativeElement.focus());
  }

  protected start(): void {
    this.date.set(this.contexts.context()?.asAt.end ?? '');
    this.reason.set('');
    this.reverses.set(false);
    this.lines.set([EMPTY_LINE, EMPTY_LINE]);
    this.issues.set([]);
    this.isWriting.set(true);
  }

  /** Changes a line; there is always an empty one behind the last. */
  protected edit(index: number, change: Partial<DraftLine>): void {
    const lines = this.lines().map((line, at) => (at === index ? { ...line, ...change } : line));
    this.lines.set(isBlank(lines.at(-1)!) ? lines : [...lines, EMPTY_LINE]);
  }

  /** Fills what is missing to balance into an empty amount, on the side where it is missing. */
  protected balance(index: number): void {
    const line = this.lines()[index]!;
    if (line.debit !== '' || line.credit !== '') return;
    const off = this.lines().reduce(
      (sum, { debit, credit }) => sum + (minorOf(debit, this.digits()) ?? 0) - (minorOf(credit, this.digits()) ?? 0),
      0,
    );
    const text = formatMinor(Math.abs(off), this.digits());
    if (off !== 0) this.edit(index, off > 0 ? { credit: text } : { debit: text });
  }

  protected drop(index: number): void {
    this.lines.update((lines) => lines.filter((_, at) => at !== index));
  }

  protected post(): void {
    const plain = (text: string) => (text.trim() === '' ? '' : (readNumber(text, '.')?.plain ?? text.trim()));
    const lines = this.lines()
      .filter((line) => !isBlank(line))
      .map(({ account, description, debit, credit }) => ({
        account: account.trim(),
        description,
        debit: plain(debit),
        credit: plain(credit),
      }));
    this.failure.set(undefined);
    this.api
      .postAdjustment({
        entity: this.scope()!,
        date: this.date(),
        period: '',
        reason: this.reason().trim(),
        reverses: this.reverses(),
        lines,
      })
      .subscribe({
        next: ({ issues }) => {
          this.issues.set(issues);
          if (issues.length === 0) this.done();
        },
        error: (error: ErrorReply) => this.failure.set(error),
      });
  }

  protected remove(journalId: number): void {
    this.failure.set(undefined);
    this.api.removeAdjustment(journalId).subscribe({
      next: () => this.done(),
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }

  protected retry(): void {
    this.retries.next();
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  private done(): void {
    this.isWriting.set(false);
    this.retries.next();
    this.workspaces.reload();
  }
}
