import { forkJoin, map, of, type Observable } from 'rxjs';
import { buildCalendar, linesOf, type FiscalCalendar } from '@margin-lens/core';
import type {
  EntityView,
  FiguresView,
  MakingsView,
  PeriodView,
  RowsReadView,
  VersionView,
} from '@margin-lens/contract';
import type { Api } from '../shared/api';
import { yearsBefore } from './base-year';
import type { Comparison } from './sheet-model';

/** Code of last year's actuals among what stands beside a sheet. */
export const LAST_YEAR = 'last_year';

/** What is on the sheet. */
export interface SheetPlace {
  version: VersionView;
  scope: EntityView;
  calendar: string;
  periods: readonly PeriodView[];
  rows: string;
  comparisons: readonly { code: string; name: string; kind: string }[];
}

/** A sheet as the server has it. */
export interface LoadedSheet {
  place: SheetPlace;
  calendar: FiscalCalendar;
  view: FiguresView;
  rows: RowsReadView;
  makings: MakingsView;
  lastYear: FiguresView | undefined;
  comparisons: readonly Comparison[];
}

/** Reads the figures of a sheet and what stands beside them; of the sheet before, rows and master data are kept. */
export function loadSheet(api: Api, place: SheetPlace, before: LoadedSheet | undefined): Observable<LoadedSheet> {
  const { version, scope } = place;
  const range = { scope: scope.code, from: version.from, to: version.to };
  const lastYear = figuresBack(api, place, 1);
  return forkJoin({
    view: api.figures({ ...range, version: version.code }),
    rows: before?.rows.layout.id === place.rows ? of(before.rows) : api.rowsRead(place.rows),
    makings: before ? of(before.makings) : api.makings(),
    lastYear,
    comparisons:
      place.comparisons.length === 0
        ? of([])
        : forkJoin(
            place.comparisons.map((each) =>
              (each.code === LAST_YEAR ? lastYear : api.figures({ ...range, version: each.code })).pipe(
                map((view): Comparison => ({
                  code: each.code,
                  name: each.name,
                  notation:
                    each.code === LAST_YEAR
                      ? 'prior_year'
                      : each.kind === 'actual'
                        ? 'actual'
                        : each.kind === 'plan'
                          ? 'plan'
                          : 'forecast',
                  lines: linesOf(view?.lines ?? []),
                  openings: view ? openingsOf(view) : new Map<string, number>(),
                })),
              ),
            ),
          ),
  }).pipe(map((all) => ({ ...all, place, calendar: buildCalendar(place.calendar, [...place.periods]) })));
}

/** Actual figures of the same months some years before, where the calendar reaches so far. */
function figuresBack(
  api: Api,
  { version, scope, periods }: SheetPlace,
  years: number,
): Observable<FiguresView | undefined> {
  const [from, to] = [yearsBefore(version.from, years), yearsBefore(version.to, years)];
  if (!periods.some(({ key }) => key === from)) return of(undefined);
  return api.figures({ version: 'actual', scope: scope.code, from, to });
}

/** What accounts open with before the first month of figures. */
export const openingsOf = ({ openings }: FiguresView): ReadonlyMap<string, number> =>
  new Map(openings.map(({ account, figure }) => [account, figure]));
