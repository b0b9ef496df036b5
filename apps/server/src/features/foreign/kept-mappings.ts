import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import { MappingSchema, type Mapping } from '@margin-lens/core';
import { currentDocuments } from '../../store/documents';

/** The mappings that were confirmed before, the latest first. */
export async function keptMappings(em: EntityManager): Promise<Mapping[]> {
  const rows = (await currentDocuments(em, ['mapping'])).sort((a, b) => b.since - a.since);
  return rows.flatMap(({ body }) => {
    const parsed = v.safeParse(MappingSchema, JSON.parse(body));
    return parsed.success ? [parsed.output] : [];
  });
}
