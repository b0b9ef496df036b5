import type { UnmatchedView } from '@margin-lens/contract';
import { proposeClassification, type Nature } from '@margin-lens/core';
import type { PackageRow } from '../../store/masters';
import type { Unmatched } from './foreign-source';

/** Codes that the books do not have, accounts with a classification proposed beside the chart that is there. */
export function classifyNew(unmatched: readonly Unmatched[], chart: readonly PackageRow[]): UnmatchedView[] {
  const settled = chart.map((row) => ({
    ...{ number: String(row['number']), name: String(row['name']), stand: 0 },
    settled: {
      nature: String(row['nature']) as Nature,
      heading: String(row['category']),
      subHeading: String(row['subcategory']),
      role: String(row['role']),
    },
  }));
  const accounts = unmatched.filter(({ target }) => target === 'account');
  const added = accounts.map(({ text, name, stand }) => ({ number: text, name: name || text, stand }));
  const proposals = proposeClassification([...settled, ...added]).slice(settled.length);
  return unmatched.map(({ stand: _stand, ...code }) => {
    const proposal = proposals[accounts.findIndex(({ text }) => code.target === 'account' && text === code.text)];
    if (!proposal) return { ...code, classification: null };
    const { nature, heading, subHeading, role } = proposal;
    return { ...code, classification: { nature, heading, subHeading, role } };
  });
}
