import type { Axis, Breakdown } from '../layout/breakdown-document';
import type { Field } from './fields';
import { extended, pathKey, stepsBelow, type Path, type Step } from './step';

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

/**
 * Lays the axes of a side out: every value of the first, and below each that is open what it is told apart by.
 */
export function layOut(
  axes: readonly Axis[],
  fields: readonly Field[],
  { open = [] }: Pick<Breakdown, 'open'>,
  choose: Choose,
): Laid[] {
  const isOpenAt = opening(open);
  const laid: Laid[] = [];
  const add = (above: Path, depth: number, parent: number | undefined) => {
    const candidates = stepsBelow(above, axes, fields);
    const [first] = candidates;
    if (!first) return;
    for (const step of choose(above, axes[first.axis]!, candidates)) {
      const path = extended(above, step);
      const key = pathKey(path);
      const canOpen = stepsBelow(path, axes, fields).length > 0;
      // what stands together is opened by itself alone
      const isOpen = canOpen && isOpenAt(key, step.kind === 'rest' ? Infinity : depth);
      const at = laid.push({ path, key, label: step.label, depth, parent, canOpen, isOpen }) - 1;
      if (isOpen) add(path, depth + 1, at);
    }
  };
  add([], 0, undefined);
  return laid;
}
