import type { VersionState, VersionView } from '@margin-lens/contract';

export const STATE_WORDS: Record<VersionState, string> = {
  draft: 'Draft',
  submitted: 'Submitted',
  approved: 'Approved',
  locked: 'Locked',
};

export const KIND_WORDS = { plan: 'Plan', forecast: 'Forecast', branch: 'Branch' } as const;

/** What moves a version on from a state. */
export const NEXT_STEP: Record<VersionState, { to: VersionState; label: string } | undefined> = {
  draft: { to: 'submitted', label: 'Submit' },
  submitted: { to: 'approved', label: 'Approve' },
  approved: { to: 'locked', label: 'Lock' },
  locked: undefined,
};

/** A version in a line of a card. */
export function cardWords(version: VersionView, versions: readonly VersionView[]): string {
  const state = STATE_WORDS[version.state];
  const changes = version.changes === 0 ? '' : `, ${version.changes} ${version.changes === 1 ? 'change' : 'changes'}`;
  if (version.kind === 'branch') {
    const parent = versions.find(({ code }) => code === version.parent);
    return `branch of ${parent?.name ?? version.parent}${changes}`;
  }
  return `${state.toLowerCase()}${changes}`;
}

/** How dense a forecast is hatched: the newer the denser. Shape: 0 (newest) and up. */
export function ageOf(version: VersionView, versions: readonly VersionView[]): number {
  const newer = versions.filter(({ kind, rank }) => kind === version.kind && rank > version.rank);
  return newer.length;
}
