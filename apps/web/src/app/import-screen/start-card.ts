import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatIconModule } from '@angular/material/icon';
import { MatSelectModule } from '@angular/material/select';
import { MatStepper, MatStepperModule } from '@angular/material/stepper';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import {
  NATURES,
  ROLES,
  STARTING_ENTITY,
  type CalendarRule,
  type Mapping,
  type StartingBooks,
} from '@margin-lens/core';
import type { CheckRequest, ImportJobView, LookAgain, SurveyView } from '@margin-lens/contract';
import { MONTHS } from '../setup-screen/calendar-view';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import { Sheet } from '../shared/sheet/sheet';
import type { DraftRow, SheetColumn } from '../shared/sheet/sheet-model';
import { MappingCard, type MappedCheck } from './mapping-card';
import { AT, accountOfCells, CELL_COUNT, isReady, proposedAccounts, sumsOf, type ProposedAccount } from './start-view';
import { readablePlain } from '@margin-lens/core/shown';

type Entity = StartingBooks['entities'][number];

const money = (amount: number): string => {
  const text = readablePlain(Math.abs(amount).toFixed(2));
  return Math.abs(amount) < 0.005 ? '–' : amount < 0 ? `(${text})` : text;
};

/** Starts an empty workspace from one file in steps: how it is read, its entities and chart of accounts, proposed, and what it would change. */
@Component({
  selector: 'ml-start-card',
  imports: [
    MappingCard,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatIconModule,
    MatSelectModule,
    MatStepperModule,
    Sheet,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './start-card.html',
  styleUrls: ['./mapping-card.scss', './start-card.scss'],
})
export class StartCard {
  /** A delivery into an empty workspace that has been looked into. */
  readonly job = input.required<ImportJobView>();
  /** It was asked for something and has not answered yet. */
  readonly isAsked = input(false);
  /** It has been checked, and what it would change is shown. */
  readonly isShown = input(false);

  readonly lookAgain = output<LookAgain>();
  readonly survey = output<Mapping>();
  readonly check = output<Omit<CheckRequest, 'isComplete'>>();
  /** From what it would change back to the accounts or the columns. */
  readonly back = output();
  readonly cancelled = output();

  protected readonly MONTHS = MONTHS;
  protected readonly CELL_COUNT = CELL_COUNT;
  protected readonly money = money;

  protected readonly name = signal('');
  protected readonly entities = signal<readonly Entity[]>([]);
  protected readonly years = signal({ from: 0, to: 0 });
  protected readonly draft = new SheetDraft();
  protected readonly isOnlyOpen = signal(false);
  private readonly mapping = signal<Mapping | undefined>(undefined);
  private readonly isBack = signal(false);
  protected readonly surveyed = computed(() => this.job().survey, {
    equal: (a, b) => JSON.stringify(a) === JSON.stringify(b),
  });
  /** How the file is read, then the accounts that it starts with, then what it would change. */
  protected readonly step = computed(() => {
    if (this.surveyed() === null || this.isBack()) return 0;
    return this.isShown() ? 2 : 1;
  });

  protected readonly rule = computed(() => this.job().inspection!.startsWith!);
  protected readonly firstMonth = computed(() => {
    const rule = this.rule();
    return rule.kind === 'months' ? rule.firstMonth : 1;
  });
  private readonly proposals = computed((): ReadonlyMap<string, ProposedAccount> => {
    const survey = this.surveyed();
    return survey ? proposedAccounts(survey) : new Map();
  });
  private readonly stand = (number: string): number => this.proposals().get(number)?.stand ?? 0;
  private readonly rows = computed(() => this.draft.rows().filter(({ isRemoved }) => !isRemoved));
  protected readonly sums = computed(() =>
    sumsOf(
      this.rows().map(({ cells }) => cells),
      this.stand,
    ),
  );
  protected readonly undated = computed(() => this.job().survey?.undated ?? 0);
  /** Accounts whose classification only the side of their balance suggests, until a person has changed them. */
  protected readonly open = computed(() => this.rows().filter((row) => this.isOpen(row)).length);
  protected readonly only = computed(() => (this.isOnlyOpen() ? this.wasOpen : undefined));
  private readonly wasOpen = ({ cells }: DraftRow): boolean => this.confidenceOf(cells[AT.number]!) !== 'sure';

  protected readonly columns = computed((): SheetColumn[] => {
    const held = (at: number) =>
      [
        ...new Set(
          this.rows()
            .map(({ cells }) => cells[at]!)
            .filter(Boolean),
        ),
      ].sort();
    const proposals = this.proposals();
    return [
      { name: 'number', label: 'Number', at: AT.number, width: '84px', isKey: true },
      { name: 'name', label: 'Name', at: AT.name, width: 'minmax(150px, 2fr)' },
      { name: 'nature', label: 'Nature', at: AT.nature, width: '84px', choices: NATURES },
      {
        name: 'heading',
        label: 'Heading',
        at: AT.heading,
        width: 'minmax(140px, 1.2fr)',
        suggestions: held(AT.heading),
      },
      {
        name: 'subHeading',
        label: 'Sub-heading',
        at: AT.subHeading,
        width: 'minmax(140px, 1.2fr)',
        suggestions: held(AT.subHeading),
      },
      { name: 'role', label: 'Role', at: AT.role, width: '116px', suggestions: Object.keys(ROLES) },
      {
        name: 'stand',
        label: 'Stands at',
        at: -1,
        width: '110px',
        isNumber: true,
        shows: ({ cells }) => money(this.stand(cells[AT.number]!)),
      },
      {
        name: 'because',
        label: 'Proposed because',
        at: -1,
        width: 'minmax(140px, 1.4fr)',
        shows: ({ cells }) => proposals.get(cells[AT.number]!)?.because ?? '',
      },
    ];
  });

  private readonly books = computed((): StartingBooks => ({
    name: this.name(),
    entities: [...this.entities()],
    calendar: this.rule(),
    years: this.years(),
    accounts: this.rows().map(({ cells }) => accountOfCells(cells)),
  }));
  protected readonly isWhole = computed(() => this.surveyed() !== null && isReady(this.books()));
  protected readonly canCheck = computed(() => this.isWhole() && !this.isAsked());

  private readonly stepper = viewChild.required(MatStepper);

  constructor() {
    // a step can be gone to once the one before it is drawn as done
    afterRenderEffect(() => (this.stepper().selectedIndex = this.step()));
    effect(() => {
      const { fileName } = this.job();
      untracked(() => {
        if (this.name() === '') this.name.set(fileName.replace(/\.[a-z]+$/i, '').replaceAll(/[_-]+/g, ' '));
      });
    });
    effect(() => {
      const survey = this.surveyed();
      if (survey) untracked(() => this.take(survey));
    });
  }

  /** Takes over what the file holds; what was said of entities and accounts already stays. */
  private take({ entities, years }: SurveyView): void {
    const held = new Map(this.entities().map((entity) => [entity.code, entity]));
    this.entities.set(
      entities.map(
        (code) => held.get(code) ?? { code, name: code === STARTING_ENTITY ? this.name() : code, currency: 'EUR' },
      ),
    );
    const year = new Date().getFullYear();
    // a year before to compare with, and a year after to plan
    this.years.set({ from: (years?.from ?? year) - 1, to: (years?.to ?? year) + 1 });
    const saidOf = new Map(this.draft.changed().map(({ cells }) => [cells[AT.number], cells]));
    this.draft.reset([...this.proposals()].map(([number, { cells }]) => saidOf.get(number) ?? cells));
  }

  private confidenceOf(number: string) {
    return this.proposals().get(number)?.confidence;
  }

  private isOpen({ cells, base }: DraftRow): boolean {
    const isTouched = base?.some((text, at) => text !== cells[at]) ?? true;
    return cells[AT.nature] === '' || (!isTouched && this.confidenceOf(cells[AT.number]!) === 'guess');
  }

  protected setCalendar(change: { firstMonth?: number; namedAfter?: string }): void {
    const calendar = { ...this.rule(), ...change } as CalendarRule;
    const { encoding, delimiter, sheet, headerLine, purpose } = this.job().inspection!.mapping;
    this.lookAgain.emit({ encoding, delimiter, sheet, headerLine, purpose, calendar });
  }

  protected look(said: LookAgain): void {
    this.lookAgain.emit({ ...said, calendar: this.rule() });
  }

  protected setEntity(code: string, change: Partial<Entity>): void {
    this.entities.update((all) => all.map((entity) => (entity.code === code ? { ...entity, ...change } : entity)));
  }

  protected goOn({ mapping }: MappedCheck): void {
    this.mapping.set(mapping);
    this.isBack.set(false);
    this.survey.emit(mapping);
  }

  /** Goes back to a step that was done; forth by what stands below it, so that nothing set there is left out. */
  protected goTo(step: number): void {
    if (step === this.step()) return;
    this.isBack.set(step === 0);
    if (step < 2 && this.isShown()) this.back.emit();
  }

  protected checkIt(): void {
    const mapping = this.mapping() ?? this.job().inspection!.mapping;
    const values = this.surveyed()?.values ?? [];
    const additions = { accounts: [], values: values.map((each) => ({ ...each, name: each.value })) };
    this.check.emit({ mapping, start: this.books(), additions });
  }

  protected text(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}
