import { attachment } from './export-format';
import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { FastifyReply } from 'fastify';
import { newTemporaryFolder } from './temporary-folder';

/** A file that is sent to be kept. */
export interface MadeFile {
  name: string;
  type: string;
  /** Writes it to `target`; `folder` around that is there for what is needed on the way. */
  make(target: string, folder: string): Promise<unknown>;
}

/** Sends a file that is made whole before any of it goes out: a reader who is slow, stalls or goes away holds up nothing. */
export async function sendMadeFile(reply: FastifyReply, { name, type, make }: MadeFile): Promise<FastifyReply> {
  const folder = await newTemporaryFolder('file-');
  const remove = () => rm(folder, { recursive: true, force: true });
  try {
    const target = path.join(folder, 'made');
    await make(target, folder);
    const { size } = await stat(target);
    const stream = createReadStream(target);
    stream.once('close', () => void remove());
    return reply.type(type).header('content-length', size).header('content-disposition', attachment(name)).send(stream);
  } catch (error) {
    await remove();
    throw error;
  }
}
