import { ACTUAL } from '../books/books-selection';
import type { VersionInView } from '../books/version-in-view';

/** How figures of a version are drawn: what was posted solid, a forecast hatched, what is planned outlined. */
export type VersionNotation = 'actual' | 'plan' | 'forecast';

export function versionNotation(code: string, versions: readonly VersionInView[]): VersionNotation {
  if (code === ACTUAL) return 'actual';
  return versions.find((version) => version.code === code)?.kind === 'forecast' ? 'forecast' : 'plan';
}
