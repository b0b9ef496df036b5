import { ChangeDetectionStrategy, Component, computed, effect, input, linkedSignal, output } from '@angular/core';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatAutocompleteModule, type MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import { FORMULA_FUNCTIONS, storeFormula, typedFormula, type NameSpace } from '@margin-lens/core';

const SHOWN = 10;

/** The word that is being typed at the end of a formula, where completion starts. */
const typing = (text: string): string =>
  /(?:^|[+\-−*×/÷(,;<>=@])\s*("?[\p{L}][^+\-−*×/÷(),;<>=@"]*)$/u.exec(text)?.[1] ?? '';

/** A formula in names, with completion and the place of what is wrong; gives the formula in ids once it can be read. */
@Component({
  selector: 'ml-formula-field',
  imports: [MatAutocompleteModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>{{ label() }}</mat-label>
      <textarea
        matInput
        rows="3"
        spellcheck="false"
        [attr.aria-invalid]="!!problem()"
        [value]="text()"
        [matAutocomplete]="list"
        (input)="type($any($event.target).value)"
        (keydown.control.enter)="$event.stopPropagation()"
      ></textarea>
      <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption (optionSelected)="complete($event)">
        @for (option of options(); track option.insert) {
          <mat-option [value]="option.insert">
            {{ option.name }} <span class="thin">{{ option.says }}</span>
          </mat-option>
        }
      </mat-autocomplete>
      @if (!problem()) {
        <mat-hint>+ − × ÷, brackets, sum, min, max, average, abs, round, if, coalesce, days()</mat-hint>
      }
    </mat-form-field>
    @if (problem(); as found) {
      <p class="problem" role="alert">
        {{ found.problem }}.
        @if (found.before || found.at) {
          <code
            >{{ found.before }}<mark>{{ found.at || '…' }}</mark></code
          >
        }
      </p>
    }
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
    .problem {
      margin-top: 3px;
      color: var(--adverse);
    }
    code {
      display: block;
      font: inherit;
      color: var(--ink);
    }
    mark {
      background: var(--adverse-soft);
      color: var(--adverse);
      text-decoration: underline wavy;
    }
    .thin {
      color: var(--ink-2);
      font-size: var(--small);
    }
  `,
})
export class FormulaField {
  readonly label = input('Formula');
  /** The formula as it is stored. */
  readonly stored = input.required<string>();
  readonly names = input.required<NameSpace>();
  readonly changed = output<string>();
  /** What is typed cannot be read, so that figures are still those of the stored formula. */
  readonly unread = output<boolean>();

  /** What stands in the field; the stored formula in names until something is typed. */
  protected readonly text = linkedSignal({
    source: () => ({ stored: this.stored(), names: this.names() }),
    computation: ({ stored, names }, previous?: { value: string }) => {
      const shown = typedFormula(stored, names);
      // while the same formula is being typed, the typed text stays as it is
      return previous && storeFormula(previous.value, names).formula === stored ? previous.value : shown;
    },
  });
  protected readonly problem = computed(() => {
    const { error } = storeFormula(this.text(), this.names());
    if (!error) return undefined;
    return {
      problem: error.problem,
      before: this.text().slice(0, error.from),
      at: this.text().slice(error.from, error.to),
    };
  });
  protected readonly options = computed(() => {
    const word = typing(this.text()).replace(/^"/, '').toLowerCase();
    if (word === '') return [];
    const { own, others } = this.names();
    const quoted = (label: string) => (/^\p{L}(?: *[\p{L}\d_.'’&%])*$/u.test(label) ? label : `"${label}"`);
    const all = [
      ...own.map(({ label }) => ({ name: label, insert: quoted(label), says: '' })),
      ...Object.entries(FORMULA_FUNCTIONS).map(([name, { does }]) => ({
        name: `${name}()`,
        insert: `${name}(`,
        says: does,
      })),
      ...others.flatMap(({ name, rows }) =>
        rows.map(({ label }) => ({ name: label, insert: `${quoted(label)} @ ${quoted(name)}`, says: name })),
      ),
    ];
    return all
      .filter(({ name }) => name.toLowerCase().includes(word) && name.toLowerCase() !== word)
      .sort((a, b) => Number(b.name.toLowerCase().startsWith(word)) - Number(a.name.toLowerCase().startsWith(word)))
      .slice(0, SHOWN);
  });

  constructor() {
    effect(() => this.unread.emit(this.problem() !== undefined));
  }

  protected type(text: string): void {
    this.text.set(text);
    const { formula } = storeFormula(text, this.names());
    if (formula && formula !== this.stored()) this.changed.emit(formula);
  }

  protected complete({ option }: MatAutocompleteSelectedEvent): void {
    const text = this.text();
    this.type(text.slice(0, text.length - typing(text).length) + String(option.value));
  }
}
