import { defineEntity, OptionalProps, p, type EntitySchema } from '@mikro-orm/core';

/**
 * A row that is never changed in place: it carries the revision that it came with, and the one that ended it. A change
 * ends the row and adds another.
 */
export abstract class Revisioned {
  since!: number;
  until: number | null = null;

  endBy(revision: number): void {
    this.until = revision;
  }
}

/** The rows that hold now, or that held at a revision, as a condition. */
export const heldAt = (revision?: number): object =>
  revision === undefined
    ? { until: null }
    : { since: { $lte: revision }, $or: [{ until: null }, { until: { $gt: revision } }] };

/** A row that is changed in place; whoever writes it over another's change is refused. */
export abstract class Changeable {
  declare [OptionalProps]?: 'version';
  version!: number;
}

export type Made<T> = EntitySchema<T>;

export const RevisionedSchema = defineEntity({
  name: 'Revisioned',
  class: Revisioned as never,
  abstract: true,
  properties: { since: p.integer(), until: p.integer().nullable() },
} as never) as unknown as Made<Revisioned>;

export const ChangeableSchema = defineEntity({
  name: 'Changeable',
  class: Changeable as never,
  abstract: true,
  properties: { version: p.integer().version().default(1) },
} as never) as unknown as Made<Changeable>;

interface Table {
  tableName: string;
  properties: Record<string, unknown>;
  uniques?: object[];
  indexes?: object[];
}

/** Describes the table of a class that stands on one of the two above. */
export const tableOf = <T extends Revisioned | Changeable>(
  made: abstract new () => T,
  { extends: base, ...table }: Table & { extends: Made<Revisioned> | Made<Changeable> },
): Made<T> =>
  // the types of the library ask for a class without fields of its own
  defineEntity({ name: made.name, class: made, extends: base, ...table } as never) as unknown as Made<T>;
