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
  together: readonly Step[];
  /** Of a value that hangs in several places in time: the one above it here. */
  under?: string;
  /** Demands that what stands below it has, too: those on where it hangs. */
  placed: readonly NamedCondition[];
}

/** From the outermost axis in; one step an axis, that of the deepest value of its tree. */
export type Path = readonly Step[];

/** Characters that addresses and lists in them are divided by, beside those that `encodeURIComponent` takes care of. */
const escaped = (text: string) =>
  encodeURIComponent(text).replace(/[.~*!'()]/g, (mark) => `%${mark.charCodeAt(0).toString(16).toUpperCase()}`);

const keyOf = ({ by, kind, value, under }: Step): string =>
  `${escaped(by)}:${escaped(value)}${under === undefined ? '' : `:${escaped(under)}`}${kind === 'value' ? '' : `*${kind}`}`;

/** Text of a path that survives in an address. @example 'product_line:tableware.partner:C101' */
export const pathKey = (path: Path): string => path.map(keyOf).join('.');

export const pathLabel = (path: Path): string => path.map(({ label }) => label).join(' › ');

/** What postings carry that count under a path. */
export const demandsOf = (path: Path): NamedCondition[] => path.flatMap(({ demands }) => demands);

/** A path one step further: a deeper value of the same axis takes the place of the one above it. */
export const extended = (path: Path, step: Step): Path => [...path.filter(({ axis }) => axis !== step.axis), step];

/** Where the values of a field stand: each of them in all its places, and those below each. */
interface Places {
  of: ReadonlyMap<string, readonly FieldValue[]>;
  below: ReadonlyMap<string, readonly FieldValue[]>;
}

const placesOf = new WeakMap<readonly FieldValue[], Places>();

/** Found once: fields may have thousands of values, and each of them is asked for. */
function placesIn({ values }: Field): Places {
  const known = placesOf.get(values);
  if (known) return known;
  const by = (keyOf: (each: FieldValue) => string) => {
    const found = new Map<string, FieldValue[]>();
    for (const each of values) {
      const others = found.get(keyOf(each));
      if (others) others.push(each);
      else found.set(keyOf(each), [each]);
    }
    return found;
  };
  const places = { of: by(({ value }) => value), below: by(({ parent }) => parent) };
  placesOf.set(values, places);
  return places;
}

/** @param above what it stands below */
function ofValue(axis: number, field: Field, { value, name, parent }: FieldValue, above?: Step): Step {
  const { by } = field;
  const places = placesIn(field).of.get(value)!;
  const others = places.flatMap((each) => (each.parent === '' ? [] : each.parent));
  const here: NamedCondition[] =
    places.length <= 1
      ? []
      : [
          parent === ''
            ? { dimension: by, has: 'not_in', values: others }
            : { dimension: by, has: 'in', values: [parent] },
        ];
  const placed = [...(above?.placed ?? []), ...here];
  return {
    ...{ axis, by, kind: 'value', value, label: name, together: [], placed },
    ...(places.length > 1 && { under: parent }),
    demands: [{ dimension: by, has: 'in', values: [value] }, ...placed],
  };
}

/** What has no value; of times, what is of none of those that stand there: balances bring it forward. */
const ofNone = (axis: number, { by, isTime }: Field, label: string, top: readonly FieldValue[]): Step => ({
  ...{ axis, by, kind: 'none', value: '', label, together: [], placed: [] },
  demands: [
    isTime && top.length > 0
      ? { dimension: by, has: 'not_in', values: top.map(({ value }) => value) }
      : { dimension: by, has: 'none', values: [] },
  ],
});

/** What is posted on a value that others stand below. */
const ofItself = ({ axis, by, value, label, placed }: Step, below: readonly FieldValue[]): Step => ({
  ...{ axis, by, kind: 'itself', value, label: `${label}, not told apart`, together: [], placed },
  demands: [
    { dimension: by, has: 'in', values: [value] },
    ...placed,
    { dimension: by, has: 'not_in', values: below.map((each) => each.value) },
  ],
});

/** The values of some steps as one. @param above the value that they stand below; empty at the top */
export function restOf(steps: readonly Step[], above: string): Step {
  const { axis, by } = steps[0]!;
  const values = steps.map(({ value }) => value);
  const placed = steps.flatMap((step) => step.placed);
  const elsewhere = placed.flatMap((demand) => (demand.has === 'not_in' ? demand.values : []));
  const here = new Set(placed.flatMap((demand) => (demand.has === 'in' ? demand.values : [])));
  return {
    ...{ axis, by, kind: 'rest', value: above, label: `${steps.length} others`, together: steps, placed: [] },
    demands: [
      { dimension: by, has: 'in', values },
      // all of them hang there, whichever hang elsewhere at other times
      ...[...here].map((value): NamedCondition => ({ dimension: by, has: 'in', values: [value] })),
      ...(elsewhere.length > 0 ? [{ dimension: by, has: 'not_in' as const, values: elsewhere }] : []),
    ],
  };
}

/**
 * What stands below a path: what its last value has below it in its tree, with what is posted on that value itself; the
 * values that stand together; else the top of the next axis, with what has no value there. Nothing where there is none.
 */
export function stepsBelow(path: Path, axes: readonly Axis[], fields: readonly Field[]): Step[] {
  const last = path.at(-1);
  const fieldAt = (axis: number) => fields.find(({ by }) => by === axes[axis]?.by);
  if (last?.kind === 'rest') return [...last.together];
  if (last?.kind === 'value') {
    const places = placesIn(fieldAt(last.axis)!);
    const below = places.below.get(last.value) ?? [];
    const { isPosted } = places.of.get(last.value)![0]!;
    const values = below.map((value) => ofValue(last.axis, fieldAt(last.axis)!, value, last));
    if (below.length > 0) return isPosted ? [...values, ofItself(last, below)] : values;
  }
  const next = (last?.axis ?? -1) + 1;
  const field = fieldAt(next);
  if (!field) return [];
  const known = new Set(field.values.map(({ value }) => value));
  const top = field.values.filter(({ parent }) => parent === '' || !known.has(parent));
  return [
    ...top.map((value) => ofValue(next, field, value)),
    ...(field.none === undefined ? [] : [ofNone(next, field, field.none, top)]),
  ];
}
