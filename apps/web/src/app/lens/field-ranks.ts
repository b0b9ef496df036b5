import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatListModule } from '@angular/material/list';
import type { FieldsView, StatementContext } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';

/** A field that a figure can be broken down by. */
export type RankedField = FieldsView['fields'][number];

/** What would tell the most about the selected figure: fields, by how much of it their values tell apart. */
@Component({
  selector: 'ml-field-ranks',
  imports: [MatCheckboxModule, MatListModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (answer().error; as error) {
      <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
    } @else if (answer().view) {
      @for (part of parts(); track part.id) {
        <p class="thin">
          {{ part.says }}
          @if (part.canRank) {
            <mat-checkbox
              title="Reads all lines of these accounts"
              [checked]="readsLines()"
              (change)="readsLines.set($event.checked)"
              data-testid="rank-lines"
            >
              Rank these, too
            </mat-checkbox>
          }
        </p>
        <mat-action-list [attr.data-testid]="part.id">
          @for (field of part.fields; track field.by) {
            <button
              mat-list-item
              type="button"
              [class.is-shown]="field.isShown"
              [attr.aria-disabled]="field.isShown || null"
              (click)="choose(field)"
            >
              <span class="line" [attr.aria-label]="field.words">
                <span class="name" [title]="field.name">{{ field.name }}</span>
                <span class="held">{{ field.counted }}</span>
                @if (field.held === null) {
                  <span></span>
                } @else {
                  <span class="bar" [class.shown]="field.isShown"
                    ><span [style.width.%]="100 * (field.told ?? 0)"></span
                  ></span>
                }
                <span class="held">{{ field.isShown ? 'shown' : '' }}</span>
              </span>
            </button>
          }
        </mat-action-list>
      }
      @if (others().length > 0) {
        <p class="thin">Nothing here: {{ others() }}</p>
      }
      <p class="thin">Bars: how much of the figure the values tell apart.</p>
    } @else {
      <p class="thin">Looking at the fields…</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 0;
      overflow: auto;
    }
    .thin {
      margin: 2px 14px 6px;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    .is-shown {
      cursor: default;
    }
    .line {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 66px 80px 42px;
      align-items: center;
      gap: 8px;
      width: 100%;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .held {
      color: var(--ink-2);
      font-size: var(--small);
    }
    .bar {
      height: 5px;
      background: var(--rule);

      span {
        display: block;
        height: 100%;
        background: var(--brass);
      }

      &.shown span {
        background: var(--ink);
      }
    }
  `,
})
export class FieldRanks {
  readonly statement = input.required<string>();
  readonly context = input.required<StatementContext>();
  readonly cell = input.required<string>();
  readonly revision = input.required<number>();
  readonly chosen = output<RankedField>();

  protected choose(field: RankedField): void {
    if (!field.isShown) this.chosen.emit(field);
  }

  private readonly api = inject(Api);
  /** Whether what lines carry is ranked, too. */
  protected readonly readsLines = signal(false);
  private readonly question = computed(() => ({
    statement: this.statement(),
    request: { ...this.context(), cell: this.cell(), ...(this.readsLines() && { lines: 'read' as const }) },
    revision: this.revision(),
  }));
  private readonly asking = asked(this.question, ({ statement, request }) => this.api.fields(statement, request));
  protected readonly answer = this.asking.state;
  /** Fields by how much they tell, and behind them what lines carry, which are read when it is asked for. */
  protected readonly parts = computed(() => {
    const fields = this.answer().view?.fields ?? [];
    const shown = (of: (field: RankedField) => boolean) =>
      fields.filter(of).map((field) => ({ ...field, words: wordsOf(field), counted: countedIn(field) }));
    const canRank = fields.some(({ isOfLines, isTime }) => isOfLines && !isTime);
    return [
      {
        ...{ id: 'field-ranks', says: 'What would tell the most about this figure', canRank: false },
        fields: shown(({ held, isOfLines, isShown }) => !isOfLines && held !== null && (held > 0 || isShown)),
      },
      { id: 'fields-of-lines', says: 'From the journal lines', canRank, fields: shown(({ isOfLines }) => isOfLines) },
      {
        ...{ id: 'fields-beside', says: 'One beside the other', canRank: false },
        fields: shown(({ addsUp }) => !addsUp),
      },
    ].filter(({ id, fields: found }) => id === 'field-ranks' || found.length > 0);
  });
  protected readonly others = computed(() =>
    (this.answer().view?.fields ?? [])
      .filter(({ held, isOfLines, isShown }) => held === 0 && !isOfLines && !isShown)
      .map(({ name }) => name.toLowerCase())
      .join(', '),
  );
}

const countedIn = ({ held }: RankedField): string => (held === null ? '' : held === 1 ? '1 value' : `${held} values`);

const wordsOf = ({ name, held, told, isShown }: RankedField): string =>
  [
    held === null ? name : `${name}, ${held} values`,
    told === null ? '' : `tells ${Math.round(100 * told)} % apart`,
    isShown ? 'shown already' : '',
  ]
    .filter(Boolean)
    .join(', ');
