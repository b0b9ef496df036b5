import { FIGURES_FILE, JOURNALS_FILE, RESOURCES } from './resources';

export interface PackageTitle {
  /** Lower-case letters, digits, dots, dashes and underscores. */
  name: string;
  title: string;
}

/**
 * The descriptor of a ledger package's CSV files.
 * @source Frictionless Data, Tabular Data Package
 */
export function describePackage(
  { name, title }: PackageTitle,
  journalColumns: readonly string[],
  figureColumns: readonly string[],
) {
  const resource = (called: string, file: string, fields: readonly string[]) => ({
    name: called,
    path: file,
    profile: 'tabular-data-resource',
    encoding: 'utf-8',
    schema: { fields: fields.map((field) => ({ name: field })) },
  });
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
    ],
  };
}
