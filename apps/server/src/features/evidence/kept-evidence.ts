import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { KeptEvidence } from '@margin-lens/core';
import { currentDocuments } from '../../store/documents';
import { Names } from '../../store/people';

/** Kind of the documents that evidence is kept as, so that every state of it stays. */
export const EVIDENCE = 'evidence';

/** All evidence that is kept, with the names of who wrote it. */
export async function keptEvidence(em: EntityManager): Promise<KeptEvidence[]> {
  const names = await Names.read(em);
  return (await currentDocuments(em, [EVIDENCE])).map(({ body }) => {
    const { person, ...kept } = JSON.parse(body) as KeptEvidence;
    return { ...kept, person: names.of(person) };
  });
}
