import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { debounceTime, Subject } from 'rxjs';
import type { Editor } from '@tiptap/core';
import type { PackPage, TextBody } from '@margin-lens/core';
import { nextFree } from '../shared/listed';
import { FigureDialog, type ChosenFigure, type FigureQuestion } from './figure-dialog';
import { PackStore } from './pack-store';

type TextPage = Extract<PackPage, { kind: 'text' }>;
type Quotes = NonNullable<TextPage['quotes']>;

/** How long nothing is typed before what was is told, in milliseconds. */
const PAUSE = 700; // 200 to 3,000

/** What the editor holds: the text, and the figures that it quotes. */
export type Written = Pick<TextPage, 'body' | 'quotes'>;

/** Written text with headings, lists, and figures that follow the books; what was typed is told after a pause, or when the field is left. */
@Component({
  selector: 'ml-text-editor',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="tools" role="toolbar" aria-label="Text">
      @for (tool of tools; track tool.name) {
        <button
          matButton
          type="button"
          [class.on]="active().has(tool.name)"
          [attr.aria-pressed]="active().has(tool.name)"
          [title]="tool.name"
          (mousedown)="$event.preventDefault()"
          (click)="run(tool.does)"
        >
          {{ tool.text }}
        </button>
      }
      <button matButton type="button" (mousedown)="$event.preventDefault()" (click)="quote()" data-testid="quote">
        Figure…
      </button>
    </div>
    <div #field class="field"></div>
  `,
  styleUrl: './text-editor.scss',
})
export class TextEditor implements OnDestroy {
  readonly body = input.required<TextBody>();
  readonly quotes = input.required<Quotes>();
  readonly changed = output<Written>();

  private readonly store = inject(PackStore);
  private readonly dialog = inject(MatDialog);
  private readonly field = viewChild.required<ElementRef<HTMLElement>>('field');
  private readonly editor = signal<Editor | undefined>(undefined);
  private readonly typed = new Subject<void>();
  /** Figures of the text as it is written, beside those that are kept. */
  private known: Quotes = [];
  protected readonly active = signal<ReadonlySet<string>>(new Set());
  protected readonly tools = [
    { name: 'Heading', text: 'H', does: (editor: Editor) => editor.chain().focus().toggleHeading({ level: 2 }).run() },
    { name: 'Bold', text: 'B', does: (editor: Editor) => editor.chain().focus().toggleBold().run() },
    { name: 'Italic', text: 'I', does: (editor: Editor) => editor.chain().focus().toggleItalic().run() },
    { name: 'List', text: '•', does: (editor: Editor) => editor.chain().focus().toggleBulletList().run() },
    { name: 'Numbered list', text: '1.', does: (editor: Editor) => editor.chain().focus().toggleOrderedList().run() },
  ];

  constructor() {
    const destroyed = inject(DestroyRef);
    this.typed.pipe(debounceTime(PAUSE), takeUntilDestroyed()).subscribe(() => this.tell());
    afterNextRender(() => {
      void import('./new-editor').then(({ newEditor }) => {
        const element = this.field().nativeElement;
        if (!element.isConnected) return;
        const editor = newEditor(element, this.body(), (key) => this.known.find((each) => each.key === key)?.shown);
        editor.on('blur', () => this.tell());
        editor.on('update', () => this.typed.next());
        editor.on('transaction', () => this.active.set(activeIn(editor)));
        destroyed.onDestroy(() => editor.destroy());
        this.editor.set(editor);
      });
    });
    effect(() => {
      this.known = this.quotes();
      const [body, editor] = [this.body(), this.editor()];
      // what was typed here comes back as it is
      const isOther = editor && JSON.stringify(editor.getJSON()) !== JSON.stringify(body);
      untracked(() => isOther && editor.commands.setContent(body as object, { emitUpdate: false }));
    });
  }

  /** What was typed last is told before the editor goes. */
  ngOnDestroy(): void {
    this.tell();
  }

  protected run(does: (editor: Editor) => unknown): void {
    const editor = this.editor();
    if (editor) does(editor);
  }

  /** Puts a figure where the cursor stands. */
  protected quote(): void {
    const context = this.store.context();
    const editor = this.editor();
    if (!context || !editor) return;
    const at = editor.state.selection.anchor;
    const data: FigureQuestion = { context, unit: this.store.draft()?.unit };
    this.dialog
      .open<FigureDialog, FigureQuestion, ChosenFigure>(FigureDialog, { width: '560px', data })
      .afterClosed()
      .subscribe((figure) => {
        if (!figure) return;
        const { columns, ...chosen } = figure;
        const key = nextFree('f', new Set(this.known.map((each) => each.key)));
        const { scope, as_at, version, against, where } = context;
        const read = {
          ...{ columns },
          ...(version !== undefined && { version }),
          ...(against !== undefined && { against }),
          ...(where !== undefined && { where }),
        };
        this.known = [...this.known, { ...chosen, key, context: read, at: { scope, as_at } }];
        editor.chain().focus(at).insertContent({ type: 'figure', attrs: { key } }).run();
        this.tell();
      });
  }

  private tell(): void {
    const editor = this.editor();
    if (!editor) return;
    const body = editor.getJSON() as TextBody;
    const text = JSON.stringify(body);
    if (text === JSON.stringify(this.body())) return;
    const quotes = this.known.filter(({ key }) => text.includes(`"key":"${key}"`));
    this.changed.emit({ body, quotes: quotes.length > 0 ? quotes : undefined });
  }
}

const MARKS = [
  ['Heading', 'heading'],
  ['Bold', 'bold'],
  ['Italic', 'italic'],
  ['List', 'bulletList'],
  ['Numbered list', 'orderedList'],
] as const;

const activeIn = (editor: Editor): ReadonlySet<string> =>
  new Set(MARKS.flatMap(([name, type]) => (editor.isActive(type) ? [name] : [])));
