import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import type { Explanation } from '@margin-lens/core';
import type { ErrorReply, FigureView, LiveRemark, Quote, RemarkText } from '@margin-lens/contract';
import type { ShownUnit } from '@margin-lens/core/shown';
import type { Observable } from 'rxjs';
import { momentInWords } from '../shared/moment';
import { piecesOf, quotedText, type Piece } from '@margin-lens/core/shown';
import { UndoBar } from '../shared/undo-bar';
import { ExplanationFields } from './explanation-fields';
import { explanationInWords, withExplanation, type ToExplain } from './explanation-words';
import { RemarkWords } from './remark-words';
import { nextKey, quotesOfNow } from './remark-text';
import { RemarksStore, textOf } from './remarks-store';

/** The page that remarks are on: entity, month and statement. */
type RemarkPage = Pick<RemarkText, 'scope' | 'period' | 'statement'>;

/** What a remark can be about: a cell, its row, or the page. */
export interface RemarkPlace {
  row: string;
  column: string;
  columns: string;
  /** How it is called above its remarks. */
  name: string;
}

/** A figure that can be put into the text. */
export interface Quotable {
  name: string;
  cell: string;
  context: Quote['context'];
  figure: FigureView;
}

interface ShownRemark extends LiveRemark {
  pieces: Piece[];
  /** What it says that its variance is; empty where it says nothing. */
  kind: string;
}

/** Remarks of the selected place and those around it: read, written with live figures, answered, carried on. */
@Component({
  selector: 'ml-remarks-panel',
  imports: [RemarkWords, ExplanationFields, MatButtonModule, MatFormFieldModule, MatInputModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './remarks-panel.html',
  styleUrl: './remarks-panel.scss',
})
export class RemarksPanel {
  /** Entity, month and statement. */
  readonly page = input.required<RemarkPage>();
  /** What remarks may be about here, the nearest first. */
  readonly places = input.required<readonly RemarkPlace[]>();
  readonly quotables = input.required<readonly Quotable[]>();
  readonly unit = input.required<ShownUnit>();
  /** The variance of the nearest place, where it is one that can be told apart by kind. */
  readonly toExplain = input<ToExplain>();

  private readonly store = inject(RemarksStore);
  private readonly undoBar = inject(UndoBar);
  private readonly field = viewChild.required<ElementRef<HTMLTextAreaElement>>('field');
  protected readonly moment = momentInWords;
  protected readonly before = this.store.before;
  private readonly fields = viewChild(ExplanationFields);
  protected readonly text = signal('');
  protected readonly explains = signal<Explanation | undefined>(undefined);
  /** A remark of a row says what its variance is; one of the page does not. */
  protected readonly explained = computed(() => (this.about().row === '' ? undefined : this.toExplain()));
  private readonly quotes = signal<readonly (Quote & { figure: FigureView | null })[]>([]);
  /** The remark that is changed; undefined for a new one. */
  protected readonly changed = signal<LiveRemark | undefined>(undefined);
  /** What the new remark is about once it was begun, so that looking elsewhere does not move it. */
  private readonly pinned = signal<(RemarkPlace & { page: RemarkPage }) | undefined>(undefined);
  private readonly asked = signal('');
  protected readonly problem = signal('');
  protected readonly error = computed(() => this.store.answer().error);

  protected readonly about = computed(
    () => this.pinned() ?? this.places().find((place) => keyOf(place) === this.asked()) ?? this.places()[0]!,
  );
  protected readonly aboutKey = computed(() => keyOf(this.about()));
  protected readonly isBegun = computed(() => this.text().trim() !== '');
  protected readonly canWrite = computed(() => this.isBegun() && (this.fields()?.isValid() ?? true));
  protected readonly groups = computed(() =>
    this.places().map((place) => ({
      ...place,
      key: keyOf(place),
      remarks: this.at(place, this.store.remarks()),
      proposals: this.at(place, this.store.proposals()),
    })),
  );
  protected readonly preview = computed(() => {
    const quotes = this.quotes();
    return quotes.length === 0
      ? []
      : piecesOf({ text: this.text(), quotes: [...quotes], live: quotes.map(({ figure }) => figure) }, this.unit());
  });

  /** Brings the keyboard to the text. */
  focus(): void {
    this.field().nativeElement.focus();
  }

  private at({ row, column, columns }: RemarkPlace, remarks: readonly LiveRemark[]): ShownRemark[] {
    return remarks
      .filter((remark) => remark.row === row && remark.column === column && remark.columns === columns)
      .map((remark) => ({
        ...remark,
        pieces: piecesOf(remark, this.unit()),
        kind: explanationInWords(remark.explains, this.toExplain()),
      }));
  }

  protected shown(figure: FigureView): string {
    return quotedText(figure, this.unit());
  }

  protected type(text: string): void {
    if (!this.pinned() && !this.changed()) this.pinned.set({ ...this.about(), page: this.page() });
    this.text.set(text);
    if (text.trim() === '') this.pinned.set(undefined);
  }

  protected choose(key: string): void {
    this.asked.set(key);
    const place = this.places().find((each) => keyOf(each) === key);
    if (this.isBegun() && place) this.pinned.set({ ...place, page: this.page() });
  }

  /** Puts a figure into the text, as it is now and will be. */
  protected quote({ cell, context, figure }: Quotable): void {
    const key = nextKey(this.quotes());
    const { amount } = figure;
    this.quotes.update((quotes) => [...quotes, { key, cell, context, amount, shown: this.shown(figure), figure }]);
    const text = this.text();
    this.type(`${text}${text === '' || text.endsWith(' ') ? '' : ' '}{${key}}`);
    this.focus();
  }

  protected write(): void {
    if (!this.canWrite()) return;
    const [text, changed, explains] = [this.text(), this.changed(), this.explains()];
    const quotes = this.quotes()
      .filter(({ key }) => text.includes(`{${key}}`))
      .map(({ figure: _, ...quote }) => quote);
    const { row, column, columns } = this.about();
    this.send(
      changed
        ? this.store.change(changed.id, withExplanation({ ...textOf(changed), text, quotes }, explains))
        : this.store.write({
            ...(this.pinned()?.page ?? this.page()),
            row,
            column,
            columns,
            text,
            quotes,
            state: 'open',
            carries: '',
            ...(explains && { explains }),
          }),
      () => this.empty(),
    );
  }

  protected startChange(remark: LiveRemark): void {
    this.changed.set(remark);
    this.quotes.set(remark.quotes.map((quote, at) => ({ ...quote, figure: remark.live[at] ?? null })));
    this.text.set(remark.text);
    this.explains.set(remark.explains);
    this.focus();
  }

  /** Leaves the text as it was before. */
  protected empty(): void {
    this.text.set('');
    this.explains.set(undefined);
    this.quotes.set([]);
    this.changed.set(undefined);
    this.pinned.set(undefined);
  }

  protected carryOn(remark: LiveRemark): void {
    const quotes = quotesOfNow(remark, this.unit());
    this.send(this.store.write({ ...textOf(remark), ...this.page(), quotes, state: 'open', carries: remark.id }));
  }

  protected turn(remark: LiveRemark): void {
    this.send(
      this.store.change(remark.id, { ...textOf(remark), state: remark.state === 'open' ? 'answered' : 'open' }),
    );
  }

  protected remove({ id }: LiveRemark): void {
    this.send(this.store.remove(id), () =>
      this.send(this.undoBar.offer('The remark is deleted', () => this.store.bringBack(id))),
    );
  }

  private send(work: Observable<unknown>, done?: () => void): void {
    this.problem.set('');
    work.subscribe({
      next: () => done?.(),
      error: (error: ErrorReply) => this.problem.set(`${error.message} ${error.hint}`),
    });
  }
}

const keyOf = ({ row, column }: RemarkPlace): string => `${row}~${column}`;
