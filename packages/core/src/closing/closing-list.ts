import * as v from 'valibot';
import { nameText, shortText } from '../layout/text-limits';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { addDays } from '../period/iso-day';
import { workingDaysOf } from '../period/working-days';

/** File of a ledger package with the month-end checklist, and what of it was done when. */
export const CLOSING_FILE = 'month-end.json';

const MOST_TASKS = 200;
/** Working days before or after the month's end at most; some nine weeks. */
const MOST_DAYS = 45;

/** What has to be done each month. */
export const ClosingTaskSchema = v.strictObject({
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  /** Who does it; empty where nobody is named. */
  owner: v.pipe(v.string(), v.maxLength(200)),
  /** Working day by whose end it is to be done: 1 is the first behind the month's end, 0 the month's last one, −1 the one before. */
  day: v.pipe(v.number(), v.integer(), v.minValue(-MOST_DAYS), v.maxValue(MOST_DAYS)),
  /** Code of the entity or group that it is of; empty where it is of each. */
  scope: v.string(),
  note: shortText,
});
export type ClosingTask = v.InferOutput<typeof ClosingTaskSchema>;

/** The checklist of a workspace, and who looks after each of the checks that Margin Lens makes itself. */
export const ClosingListSchema = v.strictObject({
  tasks: v.pipe(v.array(ClosingTaskSchema), v.maxLength(MOST_TASKS)),
  owners: v.record(v.string(), v.pipe(v.string(), v.maxLength(200))),
});
export type ClosingList = v.InferOutput<typeof ClosingListSchema>;

export const NO_CLOSING_LIST: ClosingList = { tasks: [], owners: {} };

/** A task that was done for a month: by whom, and when. */
export const ClosingTickSchema = v.strictObject({
  scope: v.string(),
  /** Key of the period. */
  period: v.string(),
  /** Id of the task. */
  task: v.string(),
  person: v.string(),
  at: v.pipe(v.string(), v.isoTimestamp()),
});
export type ClosingTick = v.InferOutput<typeof ClosingTickSchema>;

/** Id under which a tick is kept. */
export const tickId = ({ scope, period, task }: Pick<ClosingTick, 'scope' | 'period' | 'task'>): string =>
  `${scope}|${period}|${task}`;

/** What a package carries of it. */
export const ClosingFileSchema = v.strictObject({ ...ClosingListSchema.entries, done: v.array(ClosingTickSchema) });
export type ClosingFile = v.InferOutput<typeof ClosingFileSchema>;

/** Days looked through for working days; a country with long holidays needs some more than seven for five. */
const SLACK_DAYS = 30;

/**
 * The day by which a task is to be done, as an ISO day.
 * @param off days on which nobody works beside Saturdays and Sundays
 * @source common practice: working days of a close are counted from the month's end
 */
export function dueOn(day: number, { end }: Pick<FiscalPeriod, 'end'>, off: ReadonlySet<string>): string {
  const reach = Math.abs(day) * 2 + SLACK_DAYS;
  if (day > 0) return workingDaysOf(addDays(end, 1), addDays(end, reach), off)[day - 1]!;
  return workingDaysOf(addDays(end, -reach), end, off).at(day - 1)!;
}
