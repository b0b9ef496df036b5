/** A month with the revision behind which a posting to it is late, and why. */
export interface LateFrom {
  period: number;
  revision: number;
  because: 'closed' | 'later_month';
}

/** True in SQL for a line `l` of a journal `j` that came late; what an undo brought back did not come then. */
export function lateCondition(from: readonly LateFrom[]): string {
  if (from.length === 0) return '0';
  const cases = from.map(({ period, revision }) => `when ${period} then j.since > ${revision}`).join(' ');
  return `(case l.period ${cases} else 0 end and j.since not in (select id from workspace_revision where kind = 'undo_import'))`;
}
