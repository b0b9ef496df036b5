import { ACTUAL, type BooksSelection } from './books-selection';
import { periodOfKey, type FiscalCalendar } from '../period/fiscal-calendar';
import type { VersionInView } from './version-in-view';

/**
 * Ordinal of the last period in which a selection reads actual figures; -1 where it reads none.
 *
 * The as-at period where a column asks for it, and the cut-over of a forecast, also of one branched off, where that is
 * later.
 * @source domain notes, Versions: "Actual to date plus forecast" takes the cut-over from the as-at period
 */
export function actualUpTo(
  { version, actualTo }: Pick<BooksSelection, 'version' | 'actualTo'>,
  { versions }: { versions: readonly VersionInView[] },
  calendar: FiscalCalendar,
): number {
  if (version === ACTUAL) return calendar.periods.length;
  const { kind, cutOver, parent } = versions.find(({ code }) => code === version) ?? {
    kind: '',
    cutOver: '',
    parent: '',
  };
  const own =
    kind === 'branch' ? actualUpTo({ version: parent }, { versions }, calendar) : ordinalOf(calendar, cutOver);
  return Math.max(own, ordinalOf(calendar, actualTo));
}

const ordinalOf = (calendar: FiscalCalendar, key: string | undefined): number =>
  key === undefined || key === '' ? -1 : (periodOfKey(calendar, key)?.ordinal ?? -1);
