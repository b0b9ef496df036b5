import { forkJoin, map, of, type Observable } from 'rxjs';
import { buildCalendar, linesOf, openingsOf, type FiscalCalendar } from '@margin-lens/core';
import type {
  EntityView,
  FiguresView,
  MakingsView,
  PeriodView,
  RowsReadView,
  VersionView,
} from '@margin-lens/contract';
import type { Api } from '../shared/api';
import type { VersionsApi } from '../shared/versions-api';
import { baseYearsOf, usualBaseYear, yearsBefore, type BaseYear } from './base-year';
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
  /** Of a group, whose figures come without their values: what it is narrowed to, as the server is asked. */
  where: string;
  comparisons: readonly { code: string; name: string; kind: string }[];
  /** All versions, among which a forecast may complete the year before. */
  versions: readonly VersionView[];
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

/** Where a sheet is read: its figures, and the documents and master data beside them. */
export interface SheetServer {
  api: Pick<Api, 'rowsRead' | 'makings'>;
  versions: Pick<VersionsApi, 'figures'>;
}

/** Reads the figures of a sheet and what stands beside them; of the sheet before, rows and master data are kept. */
export function loadSheet(
  { api, versions }: SheetServer,
  place: SheetPlace,
  known: LoadedSheet | undefined,
): Observable<LoadedSheet> {
  const { version } = place;
  const range = { ...ofScope(place), from: version.from, to: version.to };
  const before = usualBaseYear(baseYearsOf(place, place.versions).filter(({ yearsBack }) => yearsBack === 1));
  const lastYear: Observable<FiguresView | undefined> = before ? figuresOf(versions, place, before) : of(undefined);
  return forkJoin({
    view: versions.figures({ ...range, version: version.code }),
    rows: known?.rows.layout.id === place.rows ? of(known.rows) : api.rowsRead(place.rows),
    makings: known ? of(known.makings) : api.makings(),
    lastYear,
    comparisons:
      place.comparisons.length === 0
        ? of([])
        : forkJoin(
            place.comparisons.map((each) =>
              (each.code === LAST_YEAR ? lastYear : versions.figures({ ...range, version: each.code })).pipe(
                map((view): Comparison => ({
                  code: each.code,
                  name: each.code === LAST_YEAR && before ? before.name : each.name,
                  notation:
                    each.code === LAST_YEAR
                      ? 'prior_year'
                      : each.kind === 'actual'
                        ? 'actual'
                        : each.kind === 'plan'
                          ? 'plan'
                          : 'forecast',
                  lines: linesOf(view?.lines ?? []),
                  openings: openingsOf(view?.openings ?? []),
                })),
              ),
            ),
          ),
  }).pipe(map((all) => ({ ...all, place, calendar: buildCalendar(place.calendar, [...place.periods]) })));
}

/** Figures of the year before by the months of the sheet: what was posted, and where that is not all of it what is forecast. */
const figuresOf = (versions: SheetServer['versions'], place: SheetPlace, { yearsBack, version: code }: BaseYear) => {
  const { version } = place;
  return versions.figures({
    ...{ version: code, ...ofScope(place) },
    ...{ from: yearsBefore(version.from, yearsBack), to: yearsBefore(version.to, yearsBack) },
  });
};

const ofScope = ({ scope, where }: SheetPlace) => ({ scope: scope.code, ...(where !== '' && { where }) });
