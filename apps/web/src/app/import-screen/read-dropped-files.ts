/** A file of a delivery with its path inside the dropped folder. */
export interface DeliveredFile {
  path: string;
  file: File;
}

const fileOf = (entry: FileSystemFileEntry) => new Promise<File>((resolve, reject) => entry.file(resolve, reject));

/** A directory reader gives at most a hundred entries a call; an empty answer is the end. */
async function entriesOf(folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> {
  const reader = folder.createReader();
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return all;
    all.push(...some);
  }
}

async function walk(entry: FileSystemEntry, into: DeliveredFile[]): Promise<void> {
  if (entry.isFile) into.push({ path: entry.fullPath.slice(1), file: await fileOf(entry as FileSystemFileEntry) });
  else for (const child of await entriesOf(entry as FileSystemDirectoryEntry)) await walk(child, into);
}

/** All files of a drop, those in folders with their paths. */
export async function readDroppedFiles(transfer: DataTransfer): Promise<DeliveredFile[]> {
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  const files: DeliveredFile[] = [];
  for (const entry of entries) await walk(entry, files);
  return files.length > 0 ? files : [...transfer.files].map((file) => ({ path: file.name, file }));
}

/** The files of a file or folder input. */
export const filesOfInput = (input: HTMLInputElement): DeliveredFile[] =>
  [...(input.files ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));

/** One multipart field a file, named by its path: browsers cut file names to their last part. */
export function formOf(files: readonly DeliveredFile[]): FormData {
  const form = new FormData();
  for (const { path, file } of files) form.append(path, file, file.name);
  return form;
}
