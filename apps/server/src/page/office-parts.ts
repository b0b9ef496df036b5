import type JSZip from 'jszip';

/** Parts that are put into an office file that a library has written: charts, and what they are drawn from. */

const RELATIONS = 'http://schemas.openxmlformats.org/package/2006/relationships';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

/** Kinds of parts, and what they say they are. @source ECMA-376, part 1, 15.2 and 14.2 */
export const CHART_TYPE = 'application/vnd.openxmlformats-officedocument.drawingml.chart+xml';
export const DRAWING_TYPE = 'application/vnd.openxmlformats-officedocument.drawing+xml';

/** Puts a part into a file, without entries for folders: readers that are strict know none. */
export const put = (zip: JSZip, path: string, content: string | Buffer): void =>
  void zip.file(path, content, { createFolders: false });

/** Path of the relations of a part. @example relationsOf('xl/worksheets/sheet1.xml') // 'xl/worksheets/_rels/sheet1.xml.rels' */
const relationsOf = (part: string): string => part.replace(/([^/]+)$/, '_rels/$1.rels');

/** Relates a part to another. @param target relative to the folder of the part @returns the id of the relation */
export async function relate(
  zip: JSZip,
  part: string,
  kind: 'chart' | 'drawing' | 'package',
  target: string,
): Promise<string> {
  const path = relationsOf(part);
  const held = (await zip.file(path)?.async('string')) ?? `<Relationships xmlns="${RELATIONS}"></Relationships>`;
  const taken = new Set([...held.matchAll(/Id="([^"]*)"/g)].map(([, id]) => id));
  let n = taken.size + 1;
  while (taken.has(`rIdLens${n}`)) n++;
  const id = `rIdLens${n}`;
  const relation = `<Relationship Id="${id}" Type="${OFFICE}/${kind}" Target="${target}"/>`;
  const open = held.replace(/<Relationships([^>]*)\/>/, '<Relationships$1></Relationships>');
  put(zip, path, open.replace('</Relationships>', `${relation}</Relationships>`));
  return id;
}

/** Says of parts what they are. */
export async function declare(zip: JSZip, parts: readonly { path: string; type: string }[]): Promise<void> {
  const path = '[Content_Types].xml';
  const held = await zip.file(path)!.async('string');
  const said = parts.map((part) => `<Override PartName="/${part.path}" ContentType="${part.type}"/>`).join('');
  put(zip, path, held.replace('</Types>', `${said}</Types>`));
}

/** Says of files of an extension what they are, where it is not said yet. */
export async function declareExtension(zip: JSZip, extension: string, type: string): Promise<void> {
  const path = '[Content_Types].xml';
  const held = await zip.file(path)!.async('string');
  if (held.includes(`Extension="${extension}"`)) return;
  const said = `<Default Extension="${extension}" ContentType="${type}"/>`;
  put(zip, path, held.replace(/(<Types[^>]*>)/, `$1${said}`));
}

/** An office file with what was put into it. */
export const zipped = (zip: JSZip): Promise<Buffer> =>
  zip.generateAsync({ type: 'nodebuffer', compression: 'DEFLATE' });
