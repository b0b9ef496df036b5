import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Location } from '@angular/common';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatIconModule } from '@angular/material/icon';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { map, switchMap } from 'rxjs';
import type { AdjustmentsView, ErrorReply, IssueView, NewAdjustment } from '@margin-lens/contract';
import { dayShort, digitsOf, formatMinor, typedPlain } from '@margin-lens/core';
import { amountText, NO_LINES } from '../ledger-screen/ledger-text';
import { adjustmentOf, foreignOf, foreignText, minorOf } from './adjustment-text';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { momentInWords } from '../shared/moment';
import { dateOfDay, dayOfDate, provideDates } from '../shared/dates';
import { inWords, named } from '../shared/validators';
import { UndoBar } from '../shared/undo-bar';
import { WorkspaceStore } from '../shared/workspace-store';
import { plainNumber } from '../shared/typed-amount';
import { type DimensionValue, ValueMenu } from '../shared/value-menu';

/** Accounts, or partners, that a field offers at once. */
const OFFERED = 12;

/** What is written on a line beside its account, in the order of the columns. */
interface LineField {
  name: 'description' | 'partner' | 'document' | 'foreign' | 'debit' | 'credit';
  head: string;
  /** What it is called where it stands alone. */
  label?: string;
  cell: 'text' | 'short' | 'number';
  /** Letters at most. */
  most?: number;
  mode?: 'decimal';
}

const FIELDS: readonly LineField[] = [
  { name: 'description', head: 'Text', cell: 'text', most: 1000 },
  { name: 'partner', head: 'Partner', cell: 'short' },
  { name: 'document', head: 'Document', cell: 'short', most: 100 },
  { name: 'foreign', head: 'In its currency', label: 'Amount in the currency of the document', cell: 'number' },
  { name: 'debit', head: 'Debit', cell: 'number', mode: 'decimal' },
  { name: 'credit', head: 'Credit', cell: 'number', mode: 'decimal' },
];

const isBlank = ({ values, ...texts }: { values: object } & Record<Exclude<LineField['name'], 'values'>, string>) =>
  Object.keys(values).length === 0 && Object.values(texts).every((text) => text.trim() === '');

interface Offered {
  code: string;
  name: string;
}

/** What begins with, or is called, what is typed. */
function fitting(all: readonly Offered[], typed: string): Offered[] {
  const text = typed.trim().toLowerCase();
  const fits = all.filter(
    ({ code, name }) => code.toLowerCase().startsWith(text) || (text !== '' && name.toLowerCase().includes(text)),
  );
  return fits.slice(0, OFFERED);
}

/** Adjustment journals by hand: those there are, and a new one that must balance before it can be posted. */
@Component({
  selector: 'ml-adjustments-screen',
  imports: [
    EmptyState,
    MatAutocompleteModule,
    MatButtonModule,
    MatCheckboxModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    ReactiveFormsModule,
    ValueMenu,
    RouterLink,
    Screen,
  ],
  providers: [provideDates()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './adjustments-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './adjustments-screen.scss'],
})
export class AdjustmentsScreen {
  private readonly api = inject(Api);
  private readonly location = inject(Location);
  private readonly contexts = inject(ContextStore);
  private readonly undoBar = inject(UndoBar);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly reasonField = viewChild<ElementRef<HTMLInputElement>>('reasonField');
  protected readonly NO_LINES = NO_LINES;

  private readonly scope = computed(() => this.contexts.entity()?.code);
  private readonly asking = asked(this.scope, (scope) => this.api.adjustments(scope));
  protected readonly state = this.asking.state;

  protected readonly isWriting = signal(false);
  protected readonly issues = signal<readonly IssueView[]>([]);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  protected readonly currency = computed(() => this.state().view?.scope.currency ?? 'EUR');
  private readonly digits = computed(() => digitsOf(this.currency()));
  private readonly names = computed(
    () => new Map(this.state().view?.accounts.map(({ number, name }) => [number, name])),
  );

  private readonly partners = computed(
    () => new Map(this.state().view?.partners.map(({ code, name }) => [code, name])),
  );

  protected readonly fields = FIELDS;
  private readonly forms = inject(NonNullableFormBuilder);
  protected readonly form = this.forms.group({
    date: this.forms.control<Date | null>(null, Validators.required),
    reason: ['', named],
    reverses: false,
    lines: this.forms.array([this.emptyLine(), this.emptyLine()]),
  });
  /** What is typed, each time that it changes. */
  private readonly typed = toSignal(this.form.valueChanges.pipe(map(() => this.form.getRawValue())), {
    initialValue: this.form.getRawValue(),
  });

  private emptyLine() {
    const amount = inWords((text: string) =>
      minorOf(text, this.digits()) === undefined ? `“${text}” is no amount; write 1,234.50 or 1234.50.` : '',
    );
    const account = inWords((text: string) =>
      text.trim() === '' || this.names().has(text.trim()) ? '' : `There is no account ${text.trim()}.`,
    );
    const partner = inWords((text: string) =>
      text.trim() === '' || this.partners().has(text.trim()) ? '' : `There is no partner ${text.trim()}.`,
    );
    const foreign = inWords((text: string) =>
      foreignOf(text) ? '' : `“${text}” is no amount in a currency; write PLN 1,234.50.`,
    );
    return this.forms.group({
      ...{ account: ['', account], description: '', document: '', debit: ['', amount], credit: ['', amount] },
      ...{ partner: ['', partner], foreign: ['', foreign] },
      values: this.forms.control<Record<string, string>>({}),
    });
  }

  protected readonly rows = computed(() => {
    const { lines } = this.typed();
    return this.form.controls.lines.controls.map((line, index) => {
      const account = lines[index]?.account.trim() ?? '';
      return { line, index, name: account === '' ? '' : (this.names().get(account) ?? 'no such account') };
    });
  });
  private readonly atWork = signal(0);
  /** Accounts that begin with, or are called, what is typed in the line at work. */
  protected readonly offered = computed(() => {
    const accounts = this.state().view?.accounts.map(({ number, name }) => ({ code: number, name })) ?? [];
    return fitting(accounts, this.typed().lines[this.atWork()]?.account ?? '');
  });
  protected readonly offeredPartners = computed(() =>
    fitting(this.state().view?.partners ?? [], this.typed().lines[this.atWork()]?.partner ?? ''),
  );
  protected readonly sums = computed(() => {
    const sum = (side: 'debit' | 'credit') =>
      this.typed().lines.reduce((total, line) => total + (minorOf(line[side], this.digits()) ?? 0), 0);
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
  /** Why it cannot be posted yet, in words; nothing when it can. */
  protected readonly obstacle = computed(() => {
    const { date, reason, lines } = this.typed();
    if (!date) return 'It needs a date.';
    if (reason.trim() === '') return 'It needs a reason.';
    for (const { controls } of this.form.controls.lines.controls) {
      const wrong = Object.values(controls).find(({ invalid }) => invalid);
      if (wrong) return (wrong.errors as { problem: string }).problem;
    }
    const filled = lines.filter((line) => !isBlank(line));
    if (filled.length < 2) return 'It needs two lines or more.';
    if (filled.some(({ account }) => account.trim() === '')) return 'Every line needs an account.';
    return this.sums().agrees ? '' : this.sums().words || 'Its amounts are missing.';
  });
  /** The date in words with its period, since fields show dates in the order of the browser. */
  protected readonly dateWords = computed(() => {
    const date = dayOfDate(this.typed().date);
    if (date === '') return 'Date';
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
    // one that another screen suggests is written as soon as accounts are known, once
    effect(() => {
      const { view } = this.state();
      const { draft } = (this.location.getState() ?? {}) as { draft?: NewAdjustment };
      if (!draft || view?.scope.code !== draft.entity) return;
      this.location.replaceState(this.location.path());
      untracked(() => this.write(draft, []));
    });
  }

  protected start(): void {
    this.write({ date: this.contexts.context()?.asAt.end ?? '', reason: '', reverses: false, lines: [] }, []);
  }

  /** Opens an adjustment to be written, with what is wrong with it. */
  private write(
    from: Pick<NewAdjustment, 'date' | 'reason' | 'reverses' | 'lines'>,
    issues: readonly IssueView[],
  ): void {
    const { lines } = this.form.controls;
    lines.clear();
    for (let at = 0; at < Math.max(2, from.lines.length); at++) lines.push(this.emptyLine());
    const typed = from.lines.map((line) => ({
      ...line,
      ...{ debit: typedPlain(line.debit), credit: typedPlain(line.credit), foreign: foreignText(line) },
    }));
    this.form.reset({ ...from, lines: typed, date: dateOfDay(from.date) });
    this.issues.set(issues);
    this.isWriting.set(true);
  }

  /** Says which line is at work, and keeps an empty one behind the last. */
  protected work(index: number): void {
    this.atWork.set(index);
    const { lines } = this.form.controls;
    if (!isBlank(lines.controls.at(-1)!.getRawValue())) lines.push(this.emptyLine());
  }

  /** Fills what is missing to balance into an empty amount, on the side where it is missing. */
  protected balance(index: number): void {
    const { lines } = this.form.controls;
    const line = lines.at(index);
    if (line.value.debit !== '' || line.value.credit !== '') return;
    const off = this.typed().lines.reduce(
      (sum, { debit, credit }) => sum + (minorOf(debit, this.digits()) ?? 0) - (minorOf(credit, this.digits()) ?? 0),
      0,
    );
    const text = typedPlain(formatMinor(Math.abs(off), this.digits()));
    if (off !== 0) line.patchValue(off > 0 ? { credit: text } : { debit: text });
    this.work(index);
  }

  /** Has a line carry a value of a dimension, or none of it. */
  protected carry(index: number, { dimension, value }: DimensionValue): void {
    const { values } = this.form.controls.lines.at(index).controls;
    const { [dimension]: _, ...others } = values.value;
    values.setValue(value === '' ? others : { ...others, [dimension]: value });
    this.work(index);
  }

  /** What a line carries, in words. */
  protected carried(values: Record<string, string>): (DimensionValue & { name: string })[] {
    const state = this.workspaces.state();
    const dimensions = state.state === 'loaded' ? state.workspace.dimensions : [];
    return Object.entries(values).map(([dimension, value]) => {
      const of = dimensions.find(({ name }) => name === dimension)?.values.find((each) => each.value === value);
      return { dimension, value, name: of?.name || value };
    });
  }

  protected drop(index: number): void {
    this.form.controls.lines.removeAt(index);
  }

  protected post(): void {
    if (this.obstacle() !== '') return;
    const { date, reason, reverses, lines: typed } = this.form.getRawValue();
    const plain = (text: string) => (text.trim() === '' ? '' : (plainNumber(text) ?? text.trim()));
    const lines = typed
      .filter((line) => !isBlank(line))
      .map(({ account, description, document, partner, values, foreign, debit, credit }) => ({
        ...{ account: account.trim(), description, document: document.trim(), partner: partner.trim(), values },
        ...{ debit: plain(debit), credit: plain(credit) },
        ...foreignOf(foreign, plain(credit) !== '')!,
      }));
    this.failure.set(undefined);
    this.api
      .postAdjustment({
        entity: this.scope()!,
        date: dayOfDate(date),
        period: '',
        reason: reason.trim(),
        reverses,
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

  /** Takes an adjustment out with its reversal; brought back, it is posted anew. */
  protected remove({ journalId, number, reason, period: its }: AdjustmentsView['adjustments'][number]): void {
    this.failure.set(undefined);
    const reverses = (this.state().view?.adjustments ?? []).some(({ reversalOf }) => reversalOf === number);
    // a regular period follows from the date
    const isRegular = this.contexts.context()?.periods.some(({ key, kind }) => key === its && kind === 'regular');
    const period = isRegular ? '' : its;
    const failed = { error: (error: ErrorReply) => this.failure.set(error) };
    this.api
      .journal(journalId)
      .pipe(switchMap((journal) => this.api.removeAdjustment(journalId).pipe(map(() => journal))))
      .subscribe({
        next: (journal) => {
          this.done();
          const adjustment = adjustmentOf(journal, { reason, reverses, period });
          this.undoBar
            .offer(`${number} is deleted`, () => this.api.postAdjustment(adjustment))
            .subscribe({
              // where it cannot be posted any more, it stands there to be written anew
              next: ({ issues }) => (issues.length > 0 ? this.write(adjustment, issues) : this.done()),
              ...failed,
            });
        },
        ...failed,
      });
  }

  protected retry(): void {
    this.asking.again();
  }

  private done(): void {
    this.isWriting.set(false);
    this.asking.again();
    this.workspaces.reload();
  }
}
