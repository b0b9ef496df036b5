import { USUAL_AGES, type Ages } from '../books/age-of-items';
import type { Axis, Breakdown, Filter } from './breakdown-document';

export type Side = 'down' | 'across';
/** Where an axis stands, or is to be put: before the one that is there. */
export interface AxisPlace {
  side: Side;
  at: number;
}

/** Values that stand alone of a field that has many, when it is first asked for by. */
const FIRST_VALUES = 10; // 3 to 50
/** Values that a field may have for all of them to stand alone. */
const FEW_VALUES = 25; // 10 to 100

/** The axis of a field as it begins: of one with many values the largest, the rest together, unless they are in time. */
export const newAxis = ({ by, values, isTime }: { by: string; values: number; isTime: boolean }): Axis =>
  values > FEW_VALUES && !isTime ? { by, top: FIRST_VALUES } : { by };

const withSide = (breakdown: Breakdown, side: Side, axes: Axis[]): Breakdown => ({ ...breakdown, [side]: axes });

/** Puts an axis at a place; a field stands once, so that one which stands elsewhere is moved. */
export function putAxis(breakdown: Breakdown, axis: Axis, { side, at }: AxisPlace): Breakdown {
  const stands = breakdown[side].findIndex(({ by }) => by === axis.by);
  const without = removeAxis(breakdown, axis.by);
  const axes = [...without[side]];
  axes.splice(stands >= 0 && stands < at ? at - 1 : at, 0, axis);
  return withSide(without, side, axes);
}

export const removeAxis = (breakdown: Breakdown, by: string): Breakdown => ({
  ...breakdown,
  down: breakdown.down.filter((axis) => axis.by !== by),
  across: breakdown.across.filter((axis) => axis.by !== by),
});

export function changeAxis(breakdown: Breakdown, by: string, change: (axis: Axis) => Axis): Breakdown {
  const changed = (axes: readonly Axis[]) => axes.map((axis) => (axis.by === by ? change(axis) : axis));
  return { ...breakdown, down: changed(breakdown.down), across: changed(breakdown.across) };
}

/** Another field in place of one. */
export const replaceAxis = (breakdown: Breakdown, by: string, axis: Axis): Breakdown =>
  changeAxis(axis.by === by ? breakdown : removeAxis(breakdown, axis.by), by, () => axis);

/** What stands down the page across it, and the other way round. */
export const swapAxes = (breakdown: Breakdown): Breakdown => ({
  ...breakdown,
  down: breakdown.across,
  across: breakdown.down,
});

const levelsOf = (open: readonly string[]): number =>
  Math.max(0, ...open.flatMap((each) => (each.startsWith('+') ? Number(each.slice(1)) || 0 : [])));

/** Opens a value that is closed, or closes it. */
export function turnOpen({ open = [], ...breakdown }: Breakdown, key: string): Breakdown {
  const turned = open.includes(key) ? open.filter((each) => each !== key) : [...open, key];
  return turned.length === 0 ? breakdown : { ...breakdown, open: turned };
}

/** Opens one level more, or one less; single values follow again. */
export function openLevels({ open = [], ...breakdown }: Breakdown, step: 1 | -1): Breakdown {
  const levels = Math.max(0, levelsOf(open) + step);
  return levels === 0 ? breakdown : { ...breakdown, open: [`+${levels}`] };
}

/** A demand in place of those on the same field; none where it asks for nothing. */
export function setDemand(
  { where = [], ...breakdown }: Breakdown,
  field: string,
  demand: Omit<Filter, 'dimension'> | undefined,
): Breakdown {
  const others = where.filter(({ dimension }) => dimension !== field);
  const all = demand ? [...others, { dimension: field, ...demand }] : others;
  return all.length === 0 ? breakdown : { ...breakdown, where: all };
}

/** Has open items told apart by other ages; the usual ones need not be said. */
export function setAges({ ages: _, agedBy: __, ...breakdown }: Breakdown, { ages, agedBy }: Ages): Breakdown {
  const areUsual = ages.length === USUAL_AGES.length && ages.every((age, at) => age === USUAL_AGES[at]);
  return { ...breakdown, ...(!areUsual && { ages: [...ages] }), ...(agedBy === 'document' && { agedBy }) };
}
