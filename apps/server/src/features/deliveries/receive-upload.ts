import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { FastifyRequest } from 'fastify';
import { appError } from '../../base/app-error';
import { newTemporaryFolder } from '../../base/temporary-folder';
import { fileWords } from '../../base/words';

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

/** Longest name of a file, bytes, and most folders it may stand in. @source common practice: 255 bytes on most disks */
const NAME_AT_MOST = 200;
const FOLDERS_AT_MOST = 10;

/** A path inside a package: parts of letters, digits, dots, dashes, underscores and spaces; never out of the folder. */
function safePath(name: string): string {
  const parts = name.split('/').filter((part) => part !== '' && part !== '.');
  const isSafe = parts.length > 0 && parts.every((part) => part !== '..' && /^[\p{L}\p{N}._ ()-]+$/u.test(part));
  const isShort = parts.length <= FOLDERS_AT_MOST && parts.every((part) => Buffer.byteLength(part) <= NAME_AT_MOST);
  if (!isSafe || !isShort) throw appError('SRV_IMPORT_FILE_NAME', { name: name.slice(0, 100) });
  return parts.join('/');
}

/**
 * Streams the files of a multipart request to disk, keeping their paths. One zip file is a delivery; so is a folder.
 *
 * The path of a file travels in its field name, since browsers cut file names to their last part.
 */
export async function receiveUpload(request: FastifyRequest): Promise<Upload> {
  const folder = await newTemporaryFolder('delivery-');
  try {
    const names: string[] = [];
    for await (const part of request.files()) {
      const name = safePath(part.fieldname === 'file' ? part.filename : part.fieldname);
      const target = path.join(folder, 'files', name);
      try {
        await mkdir(path.dirname(target), { recursive: true });
        await pipeline(part.file, createWriteStream(target, { flags: 'wx' }));
      } catch (error) {
        // one file stands where another has its folder, or twice
        if (!['EEXIST', 'ENOTDIR', 'EISDIR'].includes(String((error as NodeJS.ErrnoException).code))) throw error;
        throw appError('SRV_IMPORT_FILE_NAME', { name });
      }
      if (part.file.truncated) throw appError('SRV_UPLOAD_TOO_LARGE', { limit: fileWords.upload });
      names.push(name);
    }
    if (names.length === 0) throw appError('SRV_IMPORT_NO_FILES');
    const only = names.length === 1 ? names[0]! : undefined;
    const isZip = only !== undefined && /\.zip$/i.test(only);
    const topFolder = names[0]!.includes('/') ? names[0]!.split('/')[0]! : fileWords.several(names.length);
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
