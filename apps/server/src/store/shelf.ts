import type { EntityManager } from '@mikro-orm/better-sqlite';
import { ShelfEntry } from './tables';

/** What a person keeps at hand. */
export const shelfOf = (em: EntityManager, person: string): Promise<ShelfEntry[]> => em.find(ShelfEntry, { person });

/** Changes what is known of one statement on a person's shelf. */
export async function shelve(
  em: EntityManager,
  key: Pick<ShelfEntry, 'person' | 'statement'>,
  change: Partial<Pick<ShelfEntry, 'isFavourite' | 'openedAt'>>,
): Promise<void> {
  const known = await em.findOne(ShelfEntry, key);
  if (known) em.assign(known, change);
  else em.create(ShelfEntry, { ...key, isFavourite: false, openedAt: '', ...change } as never);
}
