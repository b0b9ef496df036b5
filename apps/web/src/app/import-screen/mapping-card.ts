import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal, untracked } from '@angular/core';
import { MatRadioModule } from '@angular/material/radio';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import type { ImportJobView, InspectionView, LookAgain } from '@margin-lens/contract';
import {
  DATE_ORDERS,
  DECIMAL_SIGNS,
  DELIMITERS,
  DIMENSION_PREFIX,
  ENCODINGS,
  hasMonthColumns,
  freshId,
  keepSaid,
  missingTargets,
  MONTH_PREFIX,
  PURPOSES,
  targetOfColumn,
  targetsOf,
  withTarget,
  type Additions,
  type Mapping,
} from '@margin-lens/core';
import {
  DATE_WORDS,
  DECIMAL_WORDS,
  DELIMITER_WORDS,
  ENCODING_WORDS,
  PURPOSE_WORDS,
  questionsOf,
  targetWords,
} from './mapping-text';
import { additionsOf, UnmatchedCodes, type AddedCode, type SaidCode } from './unmatched-codes';

/** Rows of the sample that are shown. */
const ROWS = 8;

type CodeName = InspectionView['codes'][string][number];

interface Choice {
  value: string;
  words: string;
}

/** How a file is read, and what comes into the books with it. */
export interface MappedCheck {
  mapping: Mapping;
  additions: Additions;
}

/** Names of the dimensions among targets. */
const dimensionsAmong = (targets: readonly string[]): string[] => [
  ...new Set(
    targets
      .filter((target) => target.startsWith(DIMENSION_PREFIX))
      .map((target) => target.slice(DIMENSION_PREFIX.length)),
  ),
];

/** A month that was said for the whole file, by the code that it has in another calendar; not said where it has none. */
function withPeriodByName(said: Mapping, before: readonly CodeName[], now: readonly CodeName[]): Mapping {
  const name = before.find(({ code }) => code === said.constants['period'])?.name;
  if (name === undefined) return said;
  const code = now.find((period) => period.name === name)?.code ?? '';
  return { ...said, constants: { ...said.constants, period: code } };
}

const choicesOf = <T extends string>(values: readonly T[], words: Record<T, string>): Choice[] =>
  values.map((value) => ({ value, words: words[value] }));

/** How a foreign file is read: its columns, numbers and dates, proposed and put right on a sample of it. */
@Component({
  selector: 'ml-mapping-card',
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, MatRadioModule, MatSelectModule, UnmatchedCodes],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mapping-card.html',
  styleUrl: './mapping-card.scss',
})
export class MappingCard {
  /** A delivery that has been looked into. */
  readonly job = input.required<ImportJobView>();
  /** It was asked for something and has not answered yet. */
  readonly isAsked = input(false);
  /** What the button says that goes on. */
  readonly goOn = input('Check what it would change');

  readonly check = output<MappedCheck>();
  readonly lookAgain = output<LookAgain>();
  readonly cancelled = output();

  protected readonly purposes = choicesOf(PURPOSES, PURPOSE_WORDS);
  protected readonly decimals = choicesOf(DECIMAL_SIGNS, DECIMAL_WORDS);
  protected readonly dateOrders = choicesOf(DATE_ORDERS, DATE_WORDS);
  protected readonly delimiters = choicesOf(DELIMITERS, DELIMITER_WORDS);
  protected readonly encodings = choicesOf(ENCODINGS, ENCODING_WORDS);

  /** Every state of the job brings its own copy; only another look counts as new. */
  protected readonly inspection = computed(() => this.job().inspection!, {
    equal: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });
  protected readonly mapping = signal<Mapping>(undefined as unknown as Mapping);
  private readonly answered = signal<ReadonlySet<string>>(new Set());
  private proposed: Mapping | undefined;

  private readonly targets = computed(() => {
    const named = [...Object.keys(this.inspection().codes), ...Object.keys(this.mapping().columns)];
    return targetsOf(this.mapping().purpose, dimensionsAmong(named));
  });
  protected readonly targetChoices = computed((): Choice[] =>
    this.targets().map(({ name, label }) => ({ value: name, words: label })),
  );
  /** Months that a column of a trial balance can hold. */
  protected readonly monthChoices = computed((): Choice[] =>
    !hasMonthColumns(this.mapping().purpose)
      ? []
      : (this.inspection().codes['period'] ?? []).map(({ code, name }) => ({
          value: MONTH_PREFIX + code,
          words: `${name} (${code})`,
        })),
  );
  protected readonly columns = computed(() =>
    this.inspection().header.map((name, at) => ({ name, at, target: targetOfColumn(this.mapping().columns, name) })),
  );
  /** The target by which a column becomes a dimension that the books do not have; empty where it cannot. */
  protected newDimension(column: string, target: string): string {
    const { purpose, columns } = this.mapping();
    const known = new Set(dimensionsAmong([...Object.keys(this.inspection().codes), ...Object.keys(columns)]));
    const isNew = target.startsWith(DIMENSION_PREFIX) && !(target in this.inspection().codes);
    const takesDimensions = purpose === 'journals' || purpose === 'figures';
    return !takesDimensions || isNew ? '' : DIMENSION_PREFIX + freshId(column, known);
  }
  protected readonly rows = computed(() => this.inspection().sample.slice(0, ROWS));
  protected readonly questions = computed(() =>
    questionsOf(this.inspection()).map((question) => ({
      ...question,
      chosen: this.answered().has(question.about) ? this.answerOf(question.about) : undefined,
    })),
  );
  protected readonly missing = computed(() =>
    missingTargets(this.mapping()).map((names) => {
      const [name] = names as [string];
      const label = names
        .map(
          (n) =>
            this.targets()
              .find((t) => t.name === n)
              ?.label.toLowerCase() ?? n,
        )
        .join(' or ');
      return {
        name,
        label,
        codes: names.length === 1 ? (this.inspection().codes[name] ?? []) : [],
        isOne: names.length === 1,
      };
    }),
  );
  protected readonly constants = computed(() =>
    Object.entries(this.mapping().constants)
      .filter(([, value]) => value !== '')
      .map(([name, value]) => ({ name, value, words: targetWords(name) })),
  );
  /** Codes of the file that come into the books with it. */
  protected readonly added = signal<readonly AddedCode[]>([]);
  /** The same as the server takes them: those whose column is still read. */
  protected readonly additions = computed(() => additionsOf(this.added(), this.mapping()));
  protected readonly open = computed(() => this.questions().filter(({ chosen }) => chosen === undefined).length);
  protected readonly canCheck = computed(() => this.open() === 0 && this.missing().length === 0 && !this.isAsked());
  protected readonly sheetWord = computed(() => (/\.xml$/i.test(this.job().fileName) ? 'Part' : 'Sheet'));
  protected readonly aside = computed(() => {
    const { isKept } = this.inspection();
    return isKept ? `Read as the files of this kind before (“${this.mapping().name}”).` : '';
  });

  constructor() {
    effect(() => {
      const { mapping } = this.inspection();
      untracked(() => this.take(mapping));
    });
  }

  private periods: readonly CodeName[] = [];

  /** Takes over what another look proposes; what was put right since the look before it stays. */
  private take(proposed: Mapping): void {
    const before = this.proposed;
    const periodsBefore = this.periods;
    const { header, codes } = this.inspection();
    const periods = codes['period'] ?? [];
    const said = withPeriodByName(this.mapping(), periodsBefore, periods);
    this.proposed = proposed;
    this.periods = periods;
    this.mapping.set(proposed);
    if (!before) return;
    const targets = new Set([
      // a column that is to be a new dimension stays one
      ...Object.keys(said.columns).filter((target) => target.startsWith(DIMENSION_PREFIX)),
      ...this.targets().map(({ name }) => name),
      ...this.monthChoices().map(({ value }) => value),
    ]);
    this.mapping.set(keepSaid(before, said, { mapping: proposed, header, targets, codes }));
  }

  private answerOf(about: string): string {
    const { decimal, dateOrder, shareForm, encoding } = this.mapping();
    return { decimal, dates: dateOrder, shares: shareForm, encoding }[about] ?? '';
  }

  protected answer(about: string, value: string): void {
    const field = { decimal: 'decimal', dates: 'dateOrder', shares: 'shareForm', encoding: 'encoding' }[about]!;
    this.set({ [field]: value });
    this.answered.update((before) => new Set([...before, about]));
  }

  protected set(change: Partial<Mapping>): void {
    this.mapping.update((mapping) => ({ ...mapping, ...change }));
  }

  protected say(said: Record<string, string | number>): void {
    const { encoding, delimiter, sheet, headerLine } = this.mapping();
    this.lookAgain.emit({ encoding, delimiter, sheet, headerLine, ...said } as LookAgain);
  }

  protected setTarget(column: string, target: string): void {
    this.set({ columns: withTarget(this.mapping().columns, column, target) });
  }

  protected setConstant(name: string, value: string): void {
    this.set({ constants: { ...this.mapping().constants, [name]: value } });
  }

  protected setCode({ target, text, ours }: SaidCode): void {
    const { values } = this.mapping();
    this.set({ values: { ...values, [target]: { ...values[target], [text]: ours.split(' ')[0]! } } });
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}
