import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import type { Encoding } from '@margin-lens/core';

export interface FoundEncoding {
  encoding: Encoding;
  /** False when the text is not UTF-8 and the file does not say what it is. */
  isCertain: boolean;
}

async function markOf(file: string): Promise<Buffer> {
  const handle = await open(file);
  const mark = Buffer.alloc(3);
  const { bytesRead } = await handle.read(mark, 0, 3, 0);
  await handle.close();
  return mark.subarray(0, bytesRead);
}

async function isUtf8(file: string): Promise<boolean> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    for await (const chunk of createReadStream(file)) decoder.decode(chunk as Buffer, { stream: true });
    decoder.decode();
    return true;
  } catch {
    return false;
  }
}

/**
 * How a text file is encoded: by its byte order mark, else UTF-8 when all of it is, else probably Windows-1252.
 * @source The Unicode Standard, 23.8: byte order mark
 */
export async function encodingOf(file: string): Promise<FoundEncoding> {
  const mark = await markOf(file);
  if (mark[0] === 0xff && mark[1] === 0xfe) return { encoding: 'utf-16le', isCertain: true };
  if (mark[0] === 0xfe && mark[1] === 0xff) return { encoding: 'utf-16be', isCertain: true };
  if (await isUtf8(file)) return { encoding: 'utf-8', isCertain: true };
  return { encoding: 'windows-1252', isCertain: false };
}
