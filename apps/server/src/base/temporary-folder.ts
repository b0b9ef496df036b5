import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';

/** Files on their way in and out; each server has a folder of its own, named by its process. */
const FOLDER = path.join(os.tmpdir(), 'margin-lens-uploads');

/** A new folder of this server for files that come or go, readable by nobody else. */
export async function newTemporaryFolder(prefix: string): Promise<string> {
  const own = path.join(FOLDER, String(process.pid));
  await mkdir(own, { recursive: true, mode: 0o700 });
  return mkdtemp(path.join(own, prefix));
}

/** Removes what servers that are no longer running have left behind. */
export async function clearTemporaryFolders(): Promise<void> {
  for (const name of await readdir(FOLDER).catch(() => [])) {
    if (isRunning(Number(name))) continue;
    await rm(path.join(FOLDER, name), { recursive: true, force: true });
  }
}

function isRunning(processId: number): boolean {
  try {
    process.kill(processId, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}
