import { randomUUID } from 'node:crypto';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { WritingStyle } from '@margin-lens/core';
import { Person, RevisionRow } from './tables';

/** Id of the person who works here as long as nobody signs in. */
export const LOCAL_PERSON = 'local';

export const findPerson = (em: EntityManager, id: string): Promise<Person | null> => em.findOne(Person, { id });

export const allPeople = (em: EntityManager): Promise<Person[]> => em.find(Person, {}, { orderBy: { name: 'asc' } });

/** Says how a person writes numbers and days. */
export async function restyle(em: EntityManager, id: string, style: WritingStyle): Promise<void> {
  em.assign(await em.findOneOrFail(Person, { id }), { style });
}

/** The id of the person with a name; one who is named for the first time is made, and may do nothing yet. */
export async function personOfName(em: EntityManager, name: string): Promise<string> {
  const known = await em.findOne(Person, { name });
  if (known) return known.id;
  const made = em.create(Person, {
    id: randomUUID(),
    name,
    rights: [],
    entities: [],
    values: {},
    style: null,
  } as never);
  return made.id;
}

/** Names of all people, by id. */
export class Names {
  private constructor(private readonly names: ReadonlyMap<string, string>) {}

  static async read(em: EntityManager): Promise<Names> {
    const people = await em.find(Person, {}, { fields: ['name'] });
    return new Names(new Map(people.map(({ id, name }) => [id, name])));
  }

  /** An id that nobody has stands for itself. */
  of(id: string): string {
    return this.names.get(id) ?? id;
  }
}

/** Who wrote revisions, and when. */
export interface WhoAndWhen {
  person: string;
  at: string;
}

/** Who wrote some revisions and when, by revision; people by their names. */
export async function whoAndWhen(
  em: EntityManager,
  revisions: Iterable<number>,
): Promise<(revision: number) => WhoAndWhen> {
  const wanted = [...new Set(revisions)];
  const names = await Names.read(em);
  const rows = await em.find(RevisionRow, { id: { $in: wanted } }, { fields: ['person', 'at'] });
  const known = new Map(rows.map(({ id, person, at }) => [id, { person: names.of(person), at }]));
  return (revision) => known.get(revision) ?? { person: '', at: '' };
}
