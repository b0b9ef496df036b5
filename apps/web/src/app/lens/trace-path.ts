import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { takesLetters } from '../shared/takes-letters';
import { JournalCard } from './journal-card';
import type { LensState, LensStep } from './lens-store';
import { type Crumb, crumbsOf } from './lens-text';
import { TraceLevel } from './trace-level';

/**
 * The levels of a figure: those above as crumbs, the last one open, down to the whole journal.
 *
 * Enter goes a level down, Backspace up, the arrows from term to term.
 */
@Component({
  selector: 'ml-trace-path',
  imports: [JournalCard, MatButtonModule, TraceLevel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="body" data-lens-body tabindex="-1">
      @if (crumbs().length > 0) {
        <ol class="crumbs" aria-label="Levels above">
          @for (crumb of crumbs(); track $index; let i = $index) {
            <li>
              <button matButton class="entry" type="button" (click)="goUpTo(i)">
                <span class="name"
                  >{{ crumb.name }} <span class="thin">{{ crumb.thin }}</span></span
                >
                <span class="amount">{{ crumb.amount }}</span>
              </button>
            </li>
          }
        </ol>
      }
      @if (state().error; as error) {
        <p class="error" role="alert">{{ error.message }} {{ error.hint }}</p>
      } @else if (last(); as step) {
        @if (step.kind === 'level') {
          <ml-trace-level [level]="step.level" (opened)="open($event)" (more)="more.emit()" />
        } @else {
          <ml-journal-card [journal]="step.journal" />
        }
      } @else {
        <p class="thin waiting">Tracing…</p>
      }
    </div>
  `,
  styleUrl: './trace-path.scss',
  host: { '(keydown)': 'onKey($event)' },
})
export class TracePath {
  readonly state = input.required<LensState>();
  readonly opened = output<string>();
  /** Place of the level to go up to, from 0. */
  readonly up = output<number>();
  readonly more = output();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly wantsFocus = signal(false);

  protected readonly crumbs = computed<Crumb[]>(() => crumbsOf(this.state().steps.slice(0, -1)));
  protected readonly last = computed<LensStep | undefined>(() => this.state().steps[this.state().steps.length - 1]);

  constructor() {
    // after rendering: the terms must be those of the level that has arrived
    afterRenderEffect(() => {
      if (this.state().isLoading || !this.wantsFocus()) return;
      untracked(() => this.wantsFocus.set(false));
      this.focusFirst();
    });
  }

  /** Brings the keyboard to the first term, as soon as it is there. */
  focusTerms(): void {
    this.wantsFocus.set(true);
  }

  protected open(address: string): void {
    this.wantsFocus.set(true);
    this.opened.emit(address);
  }

  protected goUpTo(level: number): void {
    this.wantsFocus.set(true);
    this.up.emit(level);
  }

  protected onKey(event: KeyboardEvent): void {
    if (takesLetters(event.target)) return;
    const { steps } = this.state();
    if (event.key === 'Backspace' && steps.length > 1) this.goUpTo(steps.length - 2);
    else if (event.key === 'ArrowDown') this.moveFocus(1);
    else if (event.key === 'ArrowUp') this.moveFocus(-1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private terms(): HTMLElement[] {
    return [...this.host.nativeElement.querySelectorAll<HTMLElement>('[data-term]')];
  }

  private moveFocus(step: 1 | -1): void {
    const terms = this.terms();
    const at = terms.indexOf(document.activeElement as HTMLElement);
    terms[Math.min(terms.length - 1, Math.max(0, at + step))]?.focus();
  }

  private focusFirst(): void {
    const first = this.terms()[0] ?? this.host.nativeElement.querySelector<HTMLElement>('[data-lens-body]');
    first?.focus();
  }
}
