import type { EntityManager } from '@mikro-orm/better-sqlite';
import { AttachmentFile } from './tables';

/** Largest file that is attached, bytes. */
export const FILE_AT_MOST = 20_000_000; // 5 to 100 million

/** Files that are attached are kept by the digest of their bytes: the same file is kept once, and never changes. */
export async function keepAttachment(em: EntityManager, sha256: string, bytes: Buffer): Promise<void> {
  if (!(await hasAttachment(em, sha256))) em.create(AttachmentFile, { sha256, bytes });
  await em.flush();
}

export const hasAttachment = async (em: EntityManager, sha256: string): Promise<boolean> =>
  (await em.count(AttachmentFile, { sha256 })) > 0;

/** The bytes behind a digest. @throws when nothing is kept under it */
export const attachmentOf = async (em: EntityManager, sha256: string): Promise<Buffer> =>
  (await em.findOneOrFail(AttachmentFile, { sha256 })).bytes;
