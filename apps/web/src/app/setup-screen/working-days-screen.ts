import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { asked } from '../shared/asked';
import { Screen } from '../shared/screen';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { dayOfDate, provideDates } from '../shared/dates';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { countDays, daysOff, dayInWords, weekdayOf, type WorkingDays } from '@margin-lens/core';
import { SetupApi } from '../shared/setup-api';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { WEEKDAYS } from './calendar-view';
import { SaveBar } from './save-bar';
import type { HoldsUnsaved } from './unsaved-guard';
import { WorkspaceSetupStore } from './workspace-setup-store';

/** Days on which each entity works: public holidays of its country, days of its own, and the count by period. */
@Component({
  selector: 'ml-working-days-screen',
  imports: [
    MatButtonModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ReactiveFormsModule,
    SaveBar,
    Screen,
  ],
  providers: [WorkspaceSetupStore, provideDates()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './working-days-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './setup-form.scss', './working-days-screen.scss'],
  host: { '(window:beforeunload)': 'unsaved() > 0 && $event.preventDefault()' },
})
export class WorkingDaysScreen implements HoldsUnsaved {
  protected readonly store = inject(WorkspaceSetupStore);
  private readonly api = inject(SetupApi);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly chosen = signal<string | undefined>(undefined);
  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  private readonly all = computed(() => this.store.draft()?.settings.working_days ?? {});
  protected readonly entities = computed(() =>
    (this.workspace()?.entities ?? []).map(({ code, name, calendar }) => {
      const { country, region } = this.all()[code] ?? {};
      return { code, name, calendar, says: country ? [country, region].filter(Boolean).join(', ') : 'no country' };
    }),
  );
  protected readonly entity = computed(
    () =>
      this.entities().find(({ code }) => code === (this.chosen() ?? this.contexts.context()?.scope.code)) ??
      this.entities()[0],
  );
  protected readonly days = computed((): WorkingDays => this.all()[this.entity()?.code ?? ''] ?? {});

  /** Periods of the fiscal year of the pin, in the calendar of the entity. */
  protected readonly periods = computed(() => {
    const calendar = this.workspace()?.calendars.find(({ code }) => code === this.entity()?.calendar);
    const end = this.contexts.context()?.asAt.end ?? '';
    const regular = calendar?.periods.filter(({ kind }) => kind === 'regular') ?? [];
    const year = (regular.find((period) => period.end >= end) ?? regular.at(-1))?.fiscalYear;
    return regular.filter(({ fiscalYear }) => fiscalYear === year);
  });
  protected readonly year = computed(() => this.periods()[0]?.fiscalYear);

  private readonly query = computed(() => {
    const periods = this.periods();
    if (periods.length === 0) return undefined;
    const { country = '', region = '' } = this.days();
    return { country, region, from: periods[0]!.start.slice(0, 4), to: periods.at(-1)!.end.slice(0, 4) };
  });
  private readonly asking = asked(this.query, ({ country, region, ...years }) =>
    this.api.holidays({ ...years, ...(country ? { country } : {}), ...(region ? { region } : {}) }),
  );
  protected readonly answer = this.asking.state;
  protected readonly countries = computed(() => this.answer().view?.countries ?? []);
  protected readonly regions = computed(
    () => this.countries().find(({ code }) => code === this.days().country)?.regions ?? [],
  );

  /** Holidays and days of its own within the year, in order. */
  protected readonly listed = computed(() => {
    const periods = this.periods();
    if (periods.length === 0) return [];
    const [start, end] = [periods[0]!.start, periods.at(-1)!.end];
    const worked = new Set(this.days().worked);
    const holidays = (this.days().country ? (this.answer().view?.days ?? []) : []).map(({ date, name }) => ({
      date,
      name,
      isOwn: false,
      isOff: !worked.has(date),
    }));
    const own = (this.days().closed ?? []).map(({ date, name }) => ({ date, name, isOwn: true, isOff: true }));
    return [...holidays, ...own]
      .filter(({ date }) => date >= start && date <= end)
      .sort((a, b) => (a.date < b.date ? -1 : 1))
      .map((day) => ({ ...day, says: dayInWords(day.date), weekday: WEEKDAYS[weekdayOf(day.date) - 1]! }));
  });
  private readonly off = computed(() => {
    const holidays = this.days().country ? (this.answer().view?.days ?? []) : [];
    return daysOff(
      holidays.map(({ date }) => date),
      this.days(),
    );
  });
  protected readonly counts = computed(() =>
    this.periods().map(({ key, name, start, end }) => ({ key, name, ...countDays(start, end, this.off()) })),
  );
  protected readonly total = computed(() =>
    this.counts().reduce(
      (sum, each) => ({
        days: sum.days + each.days,
        weekdays: sum.weekdays + each.weekdays,
        workingDays: sum.workingDays + each.workingDays,
      }),
      { days: 0, weekdays: 0, workingDays: 0 },
    ),
  );

  constructor() {
    this.store.load();
  }

  private readonly fields = inject(NonNullableFormBuilder);
  /** A day on which the entity is closed, as it is typed. */
  protected readonly closing = this.fields.group({
    date: this.fields.control<Date | null>(null, Validators.required),
    name: '',
  });

  unsaved(): number {
    return this.store.isChanged() ? 1 : 0;
  }

  protected choose(code: string): void {
    this.chosen.set(code);
  }

  protected setCountry(country: string): void {
    const { closed } = this.days();
    this.set({ ...(country ? { country } : {}), ...(closed ? { closed } : {}) });
  }

  protected setRegion(region: string): void {
    const rest = { ...this.days() };
    delete rest.region;
    this.set({ ...rest, ...(region ? { region } : {}) });
  }

  /** Works on a public holiday, or does not. */
  protected toggle(date: string): void {
    const worked = new Set(this.days().worked);
    if (!worked.delete(date)) worked.add(date);
    this.set({ ...this.days(), worked: [...worked].sort() });
  }

  protected addClosed(): void {
    const { date: chosen, name: typed } = this.closing.getRawValue();
    const date = dayOfDate(chosen);
    if (date === '') return;
    const name = typed.trim() || 'Closed';
    const others = (this.days().closed ?? []).filter((day) => day.date !== date);
    this.set({ ...this.days(), closed: [...others, { date, name }].sort((a, b) => (a.date < b.date ? -1 : 1)) });
    this.closing.reset();
  }

  protected removeClosed(date: string): void {
    this.set({ ...this.days(), closed: (this.days().closed ?? []).filter((day) => day.date !== date) });
  }

  private set(days: WorkingDays): void {
    const code = this.entity()?.code;
    if (code) this.store.changeSettings({ working_days: { ...this.all(), [code]: days } });
  }
}
