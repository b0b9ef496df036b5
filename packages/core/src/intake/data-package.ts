import { FIGURES_FILE, JOURNALS_FILE, RESOURCES } from './resources';

/** The file of a package that describes the others. */
export const DESCRIPTOR_FILE = 'datapackage.json';

export interface PackageTitle {
  /** Lower-case letters, digits, dots, dashes and underscores. */
  name: string;
  title: string;
}

/** A file of a package as it was written. */
export interface WrittenFile {
  path: string;
  bytes: number;
  /** SHA-256 in hex. */
  sha256: string;
}

/**
 * The descriptor of a ledger package: its CSV files with their columns, and every file that was written with its size
 * and hash, by which a package that was cut off or changed is told from a whole one.
 * @source Frictionless Data, Tabular Data Package; Data Resource: `bytes`, `hash` (algorithm in front, as in `sha256:…`)
 */
export function describePackage(
  { name, title }: PackageTitle,
  journalColumns: readonly string[],
  figureColumns: readonly string[],
  written: readonly WrittenFile[] = [],
) {
  const proofs = new Map(written.map(({ path, bytes, sha256 }) => [path, { bytes, hash: `sha256:${sha256}` }]));
  const resource = (called: string, file: string, fields: readonly string[]) => ({
    name: called,
    path: file,
    profile: 'tabular-data-resource',
    encoding: 'utf-8',
    ...proofs.get(file),
    schema: { fields: fields.map((field) => ({ name: field })) },
  });
  const tables = [...RESOURCES.map(({ file }) => file), JOURNALS_FILE, FIGURES_FILE];
  const others = written.filter(({ path }) => !tables.includes(path));
  return {
    profile: 'tabular-data-package',
    name,
    title,
    resources: [
      ...RESOURCES.map(({ name: table, file, columns }) =>
        resource(
          table,
          file,
          columns.map((column) => column.name),
        ),
      ),
      resource('journals', JOURNALS_FILE, journalColumns),
      resource('figures', FIGURES_FILE, figureColumns),
      ...others.map(({ path }) => ({
        name: path.toLowerCase().replace(/[^a-z0-9._-]+/g, '-'),
        path,
        profile: 'data-resource',
        ...proofs.get(path),
      })),
    ],
  };
}
