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
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { CalendarRuleSchema, ruleOfCalendar, WEEK_PATTERNS, type CalendarRule } from '@margin-lens/core';
import * as v from 'valibot';
import type { Cells, DraftRow } from '../shared/sheet/sheet-model';
import { WorkspaceStore } from '../shared/workspace-store';
import {
  cellsOfPeriod,
  MONTHS,
  periodOfCells,
  periodsOfYears,
  ruleInWords,
  WEEKDAYS,
  yearColumns,
} from './calendar-view';
import { counted } from './setup-text';
import { TableSetupStore } from './table-setup-store';
import type { HoldsUnsaved } from './unsaved-guard';
import { SaveKey } from '../shared/save-key';

const MONTH_RULE: CalendarRule = { kind: 'months', firstMonth: 1, namedAfter: 'end', adjustments: 0 };
const WEEK_RULE: CalendarRule = {
  kind: 'weeks',
  pattern: '4-4-5',
  endsOn: 6,
  endMonth: 12,
  which: 'last',
  namedAfter: 'end',
  week53In: 12,
  adjustments: 0,
};

/** What is chosen of a calendar: the rule, and the years that are made by it. */
interface Making {
  rule: CalendarRule;
  from: number;
  to: number;
}

const numberIn = (event: Event) => Number((event.target as HTMLInputElement).value);
const textIn = (event: Event) => (event.target as HTMLInputElement).value;

/** Fiscal calendars: each made by a rule, its years side by side before they are saved. */
@Component({
  selector: 'ml-calendars-screen',
  imports: [SaveKey, MatButtonModule, MatFormFieldModule, MatInputModule, MatSelectModule, Screen],
  providers: [TableSetupStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './calendars-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './setup-form.scss', './calendars-screen.scss'],
  host: { '(window:beforeunload)': 'unsaved() > 0 && $event.preventDefault()' },
})
export class CalendarsScreen implements HoldsUnsaved {
  protected readonly store = inject(TableSetupStore);
  private readonly workspaces = inject(WorkspaceStore);

  protected readonly MONTHS = MONTHS;
  protected readonly WEEKDAYS = WEEKDAYS;
  protected readonly WEEK_PATTERNS = WEEK_PATTERNS;
  protected readonly numberIn = numberIn;
  protected readonly textIn = textIn;

  private readonly chosen = signal<string | undefined>(undefined);
  private readonly makings = signal<ReadonlyMap<string, Making>>(new Map());
  protected readonly newCode = signal<string | undefined>(undefined);
  private readonly codeField = viewChild<ElementRef<HTMLInputElement>>('codeField');

  private readonly byCalendar = computed(() => {
    const found = new Map<string, DraftRow[]>();
    for (const row of this.store.draft.rows()) found.set(row.cells[0]!, [...(found.get(row.cells[0]!) ?? []), row]);
    return found;
  });
  private readonly entities = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.entities : [];
  });
  protected readonly code = computed(() => {
    const chosen = this.chosen();
    return chosen !== undefined && this.byCalendar().has(chosen) ? chosen : [...this.byCalendar().keys()][0];
  });
  protected readonly calendars = computed(() =>
    [...this.byCalendar()].map(([code, rows]) => {
      const years = rows.filter(({ isRemoved }) => !isRemoved).map(({ cells }) => Number(cells[1]));
      const users = this.entities().filter(({ calendar }) => calendar === code);
      return {
        code,
        years: years.length === 0 ? 'deleted' : `FY${Math.min(...years)} – FY${Math.max(...years)}`,
        used: users.length === 0 ? 'used by no entity' : `used by ${counted(users.length, ['entity', 'entities'])}`,
        names: users.map(({ name }) => name).join(', '),
      };
    }),
  );
  private readonly rows = computed((): readonly DraftRow[] => this.byCalendar().get(this.code() ?? '') ?? []);
  private readonly detected = computed(() =>
    ruleOfCalendar(this.rows().flatMap(({ base }) => (base ? [periodOfCells(base)] : []))),
  );
  private readonly years = computed(() =>
    this.rows()
      .filter(({ isRemoved }) => !isRemoved)
      .map(({ cells }) => Number(cells[1])),
  );

  protected readonly making = computed((): Making => {
    const held = this.makings().get(this.code() ?? '');
    const [from, to] = [Math.min(...this.years()), Math.max(...this.years())];
    return held ?? { rule: this.detected() ?? MONTH_RULE, from, to };
  });
  protected readonly rule = computed(() => this.making().rule);
  protected readonly weekRule = computed(() => {
    const rule = this.rule();
    return rule.kind === 'weeks' ? rule : undefined;
  });
  protected readonly monthRule = computed(() => {
    const rule = this.rule();
    return rule.kind === 'months' ? rule : undefined;
  });
  /** Said of a calendar whose days no rule gives; a rule then holds for the years it is used on. */
  protected readonly ruleSays = computed(() => {
    const isOwn = this.detected() === undefined && !this.makings().has(this.code() ?? '');
    return isOwn && this.rows().some(({ base }) => base)
      ? 'Kept by hand: no rule gives these days. A rule chosen here makes the years named below anew.'
      : ruleInWords(this.rule());
  });
  protected readonly table = computed(() => yearColumns(this.rows(), (row) => this.store.isPosted(row)));
  protected readonly changed = this.store.draft.changed;
  protected readonly subtitle = computed(() => {
    const count = counted(this.byCalendar().size, ['calendar', 'calendars']);
    return `${count} · days of a period stay once there are postings in it`;
  });

  constructor() {
    this.store.load('calendars');
    effect(() => this.codeField()?.nativeElement.focus());
  }

  unsaved(): number {
    return this.changed().length;
  }

  protected choose(code: string): void {
    this.chosen.set(code);
  }

  protected setKind(kind: string): void {
    this.make({ rule: kind === 'weeks' ? WEEK_RULE : MONTH_RULE });
  }

  /** Changes a part of the rule; a value that cannot be is left as it was. */
  protected setRule(part: Record<string, string | number>): void {
    const rule = v.safeParse(CalendarRuleSchema, { ...this.rule(), ...part });
    if (rule.success) this.make({ rule: rule.output });
  }

  protected setYears(from: number, to: number): void {
    if (Number.isInteger(from) && Number.isInteger(to) && from >= 1900 && to <= 2200 && from <= to && to - from < 60)
      this.make({ from, to });
  }

  protected addYear(which: 'before' | 'after'): void {
    const { from, to } = this.making();
    const [first, last] = [Math.min(...this.years(), from), Math.max(...this.years(), to)];
    this.make(which === 'after' ? { to: last + 1, from } : { from: first - 1, to });
  }

  /** Takes a whole year out, or puts it back. */
  protected toggleYear(fiscalYear: number): void {
    const ids = this.rows()
      .filter(({ cells }) => cells[1] === String(fiscalYear))
      .map(({ id }) => id);
    this.store.draft.toggleRemoved(new Set(ids));
    this.forget();
  }

  /** Makes a new calendar by the plainest rule, from this year's figures on. */
  protected create(): void {
    const code = this.newCode()?.trim() ?? '';
    if (code === '' || this.byCalendar().has(code)) return;
    const years = [...this.byCalendar().values()].flat().map(({ cells }) => Number(cells[1]));
    const [from, to] =
      years.length > 0
        ? [Math.min(...years), Math.max(...years)]
        : [new Date().getFullYear() - 1, new Date().getFullYear() + 1];
    this.chosen.set(code);
    this.newCode.set(undefined);
    this.arrange(code, { rule: MONTH_RULE, from, to });
  }

  protected discard(): void {
    this.makings.set(new Map());
    this.store.discard();
  }

  protected save(): void {
    this.store.save();
  }

  protected step(which: 'undo' | 'redo'): void {
    this.store.draft[which]();
    this.forget();
  }

  /** The rule is read from the rows again. */
  private forget(): void {
    this.makings.update((makings) => new Map([...makings].filter(([code]) => code !== this.code())));
  }

  private make(change: Partial<Making>): void {
    const code = this.code();
    if (code !== undefined) this.arrange(code, { ...this.making(), ...change });
  }

  private arrange(code: string, making: Making): void {
    this.makings.update((makings) => new Map([...makings, [code, making]]));
    const { rule, from, to } = making;
    const held = (this.byCalendar().get(code) ?? []).flatMap(({ base }) => (base ? [periodOfCells(base)] : []));
    const wanted = periodsOfYears(rule, from, to, held).map((row) => cellsOfPeriod(code, row));
    const isPart = ([calendar, year]: Cells) => calendar === code && Number(year) >= from && Number(year) <= to;
    this.store.draft.arrange(isPart, wanted, (cells) => cells.slice(0, 3).join(' '));
  }
}
