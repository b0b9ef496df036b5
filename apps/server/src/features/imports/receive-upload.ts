import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { FastifyRequest } from 'fastify';
import { appError } from '../../app-error';

export interface Upload {
  /** A folder, or a zip file, in a folder of its own. */
  location: string;
  /** The folder to remove when the delivery has ended. */
  folder: string;
  fileName: string;
  /** One text file, workbook or audit file that is no ledger package; how it is read is asked. */
  isForeign: boolean;
}

/** True for a text file, workbook or audit file that is no ledger package. */
export const isForeignFile = (name: string): boolean => FOREIGN.test(name);

const FOREIGN = /\.(csv|txt|tsv|tab|dat|xlsx|xlsm|xml)$/i;

/** A path inside a package: parts of letters, digits, dots, dashes, underscores and spaces; never out of the folder. */
function safePath(name: string): string {
  const parts = name.split('/').filter((part) => part !== '' && part !== '.');
  const isSafe = parts.length > 0 && parts.every((part) => part !== '..' && /^[\p{L}\p{N}._ ()-]+$/u.test(part));
  if (!isSafe) throw appError('SRV_IMPORT_FILE_NAME', { name });
  return parts.join('/');
}

/**
 * Streams the files of a multipart request to disk, keeping their paths. One zip file is a delivery; so is a folder.
 *
 * The path of a file travels in its field name, since browsers cut file names to their last part.
 */
export async function receiveUpload(request: FastifyRequest): Promise<Upload> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'margin-lens-'));
  try {
    const names: string[] = [];
    for await (const part of request.files()) {
      const name = safePath(part.fieldname === 'file' ? part.filename : part.fieldname);
      const target = path.join(folder, 'files', name);
      await mkdir(path.dirname(target), { recursive: true });
      await pipeline(part.file, createWriteStream(target));
      if (part.file.truncated) throw appError('SRV_UPLOAD_TOO_LARGE', { limit: 'the server takes in one go' });
      names.push(name);
    }
    if (names.length === 0) throw appError('SRV_IMPORT_NO_FILES');
    const only = names.length === 1 ? names[0]! : undefined;
    const isZip = only !== undefined && /\.zip$/i.test(only);
    const topFolder = names[0]!.includes('/') ? names[0]!.split('/')[0]! : `${names.length} files`;
    const isForeign = only !== undefined && isForeignFile(only);
    return {
      isForeign,
      location: isZip || isForeign ? path.join(folder, 'files', only) : path.join(folder, 'files'),
      folder,
      fileName: only ?? topFolder,
    };
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
}
