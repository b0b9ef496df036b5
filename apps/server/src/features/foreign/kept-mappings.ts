import type Database from 'better-sqlite3';
import * as v from 'valibot';
import { MappingSchema, type Mapping } from '@margin-lens/core';

/** The mappings that were confirmed before, the latest first. */
export function keptMappings(db: Database.Database): Mapping[] {
  const rows = db
    .prepare(`select body from document where kind = 'mapping' and until is null order by since desc`)
    .all() as { body: string }[];
  return rows.flatMap(({ body }) => {
    const parsed = v.safeParse(MappingSchema, JSON.parse(body));
    return parsed.success ? [parsed.output] : [];
  });
}
