import { isOfEliminations } from '../books/books-selection';
import type { Axis, Breakdown } from '../layout/breakdown-document';
import type { Field } from './fields';
import { extended, pathKey, restOf, stepsBelow, type Path, type Step } from './step';

/** A place down or across the page, in the order in which they are read. */
export interface Laid {
  path: Path;
  key: string;
  label: string;
  depth: number;
  /** Place among these of the one it stands below. */
  parent: number | undefined;
  canOpen: boolean;
  isOpen: boolean;
}

/** Which of the steps below a path stand there, in which order. */
export type Choose = (path: Path, axis: Axis, steps: readonly Step[]) => readonly Step[];

/** All steps as they are. */
export const CHOOSE_ALL: Choose = (_, __, steps) => steps;

/** Which places are open: `+n` opens what stands above the n-th level; a path turns its own round. */
export function opening(open: readonly string[]): (key: string, depth: number) => boolean {
  const levels = Math.max(0, ...open.flatMap((each) => (each.startsWith('+') ? Number(each.slice(1)) || 0 : [])));
  const turned = new Set(open);
  return (key, depth) => depth < levels !== turned.has(key);
}

/** What stands on a side, and whether some of it stands together or is not open for lack of room. */
export interface LaidOut {
  places: Laid[];
  isCut: boolean;
}

/**
 * Lays the axes of a side out: every value of the first, and below each that is open what it is told apart by. Values for
 * which there is no room stand together behind the others, and what would be open below such stays closed, so that all of
 * it still adds up.
 * @param most places at most
 */
export function layOut(
  axes: readonly Axis[],
  fields: readonly Field[],
  { open = [] }: Pick<Breakdown, 'open'>,
  choose: Choose,
  most = Infinity,
): LaidOut {
  const isOpenAt = opening(open);
  const places: Laid[] = [];
  let [room, isCut] = [most, false];
  /** What stands below a path, as far as there is room; undefined where there is none. */
  const below = (above: Path): readonly Step[] | undefined => {
    const candidates = stepsBelow(above, axes, fields);
    const [first] = candidates;
    const steps = first ? choose(above, axes[first.axis]!, candidates) : [];
    const fitting = steps.length > room ? fitted(above, steps, room) : steps;
    isCut ||= fitting !== steps;
    room -= fitting?.length ?? 0;
    return fitting;
  };
  const add = (above: Path, steps: readonly Step[], depth: number, parent: number | undefined) => {
    for (const step of steps) {
      const path = extended(above, step);
      const key = pathKey(path);
      const canOpen = stepsBelow(path, axes, fields).length > 0;
      // what stands together is opened by itself alone
      const wanted = canOpen && isOpenAt(key, step.kind === 'rest' ? Infinity : depth);
      const inside = wanted ? below(path) : undefined;
      const at =
        places.push({ path, key, label: step.label, depth, parent, canOpen, isOpen: inside !== undefined }) - 1;
      if (inside) add(path, inside, depth + 1, at);
    }
  };
  add([], below([]) ?? [], 0, undefined);
  return { places, isCut };
}

/** As many of some steps as there is room for, those behind them together; undefined where that tells nothing apart. */
function fitted(above: Path, steps: readonly Step[], room: number): readonly Step[] | undefined {
  const last = above.at(-1);
  const isValue = ({ kind, value }: Step) => kind === 'value' && !isOfEliminations(value);
  const [values, others] = [steps.filter(isValue), steps.filter((step) => !isValue(step) && step.kind !== 'rest')];
  const kept = room - others.length - 1;
  // what stands together already is told apart as a whole
  if (kept < 1 || values.length === 0 || last?.kind === 'rest') return undefined;
  const together = [...values.slice(kept), ...steps.flatMap((step) => (step.kind === 'rest' ? step.together : []))];
  const parent = last?.axis === values[0]!.axis ? last.value : '';
  return [...values.slice(0, kept), restOf(together, parent), ...others];
}
