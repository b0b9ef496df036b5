import type { NamedCondition } from '../cube/dimension-condition';
import type { Axis } from '../layout/breakdown-document';
import type { Field, FieldValue } from './fields';

/** One value of an axis, or what stands for several of its values, or for none. */
export interface Step {
  /** Place of the axis on its side. */
  axis: number;
  by: string;
  kind: 'value' | 'none' | 'itself' | 'rest';
  /** The value; of what is posted on it `itself`, and of the `rest` of those below it, the one above. */
  value: string;
  label: string;
  /** What postings carry that count. */
  demands: readonly NamedCondition[];
  /** Of `rest`: the values that stand together. */
  together: readonly FieldValue[];
}

/** From the outermost axis in; one step an axis, that of the deepest value of its tree. */
export type Path = readonly Step[];

/** Characters that addresses and lists in them are divided by, beside those that `encodeURIComponent` takes care of. */
const escaped = (text: string) =>
  encodeURIComponent(text).replace(/[.~*!'()]/g, (mark) => `%${mark.charCodeAt(0).toString(16).toUpperCase()}`);

const keyOf = ({ by, kind, value }: Step): string =>
  `${escaped(by)}:${escaped(value)}${kind === 'value' ? '' : `*${kind}`}`;

/** Text of a path that survives in an address. @example 'product_line:tableware.partner:C101' */
export const pathKey = (path: Path): string => path.map(keyOf).join('.');

export const pathLabel = (path: Path): string => path.map(({ label }) => label).join(' › ');

/** What postings carry that count under a path. */
export const demandsOf = (path: Path): NamedCondition[] => path.flatMap(({ demands }) => demands);

/** A path one step further: a deeper value of the same axis takes the place of the one above it. */
export const extended = (path: Path, step: Step): Path => [...path.filter(({ axis }) => axis !== step.axis), step];

const ofValue = (axis: number, by: string, { value, name }: FieldValue): Step => ({
  ...{ axis, by, kind: 'value', value, label: name, together: [] },
  demands: [{ dimension: by, has: 'in', values: [value] }],
});

const ofNone = (axis: number, by: string, label: string): Step => ({
  ...{ axis, by, kind: 'none', value: '', label, together: [] },
  demands: [{ dimension: by, has: 'none', values: [] }],
});

/** What is posted on a value that others stand below. */
const ofItself = ({ axis, by, value, label }: Step, below: readonly FieldValue[]): Step => ({
  ...{ axis, by, kind: 'itself', value, label: `${label}, not told apart`, together: [] },
  demands: [
    { dimension: by, has: 'in', values: [value] },
    { dimension: by, has: 'not_in', values: below.map((each) => each.value) },
  ],
});

/** The values of some steps as one. @param above the value that they stand below; empty at the top */
export function restOf(steps: readonly Step[], above: string): Step {
  const { axis, by } = steps[0]!;
  const together = steps.map(({ value, label }) => ({ value, name: label, parent: above, isPosted: true }));
  return {
    ...{ axis, by, kind: 'rest', value: above, label: `${steps.length} others`, together },
    demands: [{ dimension: by, has: 'in', values: together.map(({ value }) => value) }],
  };
}

/**
 * What stands below a path: what its last value has below it in its tree, with what is posted on that value itself; the
 * values that stand together; else the top of the next axis, with what has no value there. Nothing where there is none.
 */
export function stepsBelow(path: Path, axes: readonly Axis[], fields: readonly Field[]): Step[] {
  const last = path.at(-1);
  const fieldAt = (axis: number) => fields.find(({ by }) => by === axes[axis]?.by);
  if (last?.kind === 'rest') return last.together.map((value) => ofValue(last.axis, last.by, value));
  if (last?.kind === 'value') {
    const below = fieldAt(last.axis)!.values.filter(({ parent }) => parent === last.value);
    const { isPosted } = fieldAt(last.axis)!.values.find(({ value }) => value === last.value)!;
    const values = below.map((value) => ofValue(last.axis, last.by, value));
    if (below.length > 0) return isPosted ? [...values, ofItself(last, below)] : values;
  }
  const next = (last?.axis ?? -1) + 1;
  const field = fieldAt(next);
  if (!field) return [];
  const known = new Set(field.values.map(({ value }) => value));
  const top = field.values.filter(({ parent }) => parent === '' || !known.has(parent));
  return [
    ...top.map((value) => ofValue(next, field.by, value)),
    ...(field.none === undefined ? [] : [ofNone(next, field.by, field.none)]),
  ];
}
