import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { KeptEvidence } from '@margin-lens/core';
import { currentDocuments } from '../../store/documents';
import { Names } from '../../store/people';

/** Kind of the documents that evidence is kept as, so that every state of it stays. */
export const EVIDENCE = 'evidence';

/** Evidence that is kept, with the names of who wrote it; of some entities alone, or of all. */
export async function keptEvidence(em: EntityManager, scopes?: ReadonlySet<string>): Promise<KeptEvidence[]> {
  const names = await Names.read(em);
  const rows = await currentDocuments(em, [EVIDENCE]);
  // its entity stands first in its id: what nobody asked for is not read
  const wanted = scopes ? rows.filter(({ id }) => scopes.has(id.slice(0, id.indexOf('|')))) : rows;
  return wanted.map(({ body }) => {
    const { person, ...kept } = JSON.parse(body) as KeptEvidence;
    return { ...kept, person: names.of(person) };
  });
}
