import type { PairDocuments, PairsView } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { PairsScreen } from './pairs-screen';

const pair = (id: string, difference: number, state: PairsView['pairs'][number]['state']) => ({
  ...{ id, rule: 'trade', kind: 'balances' as const, difference, booking: difference, rate: 0, tolerance: 100, state },
  ...{
    one: { code: 'A', name: 'One' },
    other: { code: 'B', name: id },
    own: 10_000,
    theirs: difference - 10_000,
    untold: '',
    byHand: 0,
  },
});
const VIEW: PairsView = {
  scope: { code: 'ALL', name: 'All', currency: 'EUR', digits: 2 },
  asAt: { key: 'FY2027-P05', name: 'August 2026' },
  pairs: [pair('Open', 5_000, 'open'), pair('Same', 0, 'agrees')],
  hidden: 0,
};
const DOCUMENTS: PairDocuments = {
  ...{ meet: 3, more: 0 },
  documents: [
    {
      ...{ state: 'alone', document: 'INV-7', otherDocument: '', date: '2026-08-14', currency: 'JPY', digits: 0 },
      ...{ own: 5_000, theirs: 0, text: 'Recharge', advice: 'Open has not booked INV-7, 5,000 JPY.' },
      entry: {
        entityName: 'Open',
        draft: { entity: 'B', date: '2026-08-14', period: '', reason: 'x', reverses: false, lines: [] },
      },
    },
  ],
  elimination: {
    ...{ group: 'ALL', rule: 'trade', journal: 'A-B FY2027-P05', period: 'FY2027-P05', currency: 'EUR' },
    ...{ entity: 'B', partner: 'A', account: '1159', accountName: 'Differences', side: 'credit', amount: '50.00' },
    ...{ against: '', reason: 'What One and Open differ by' },
  },
};

describe('PairsScreen', () => {
  async function open(scope: string) {
    const groups = [{ ...SAMPLE_WORKSPACE.entities[0]!, code: 'ALL', name: 'All', topEntity: 'LMG' }];
    const scopes = [{ code: 'ALL', depth: 0 }, ...SAMPLE_WORKSPACE.scopes];
    const workspace = { ...SAMPLE_WORKSPACE, groups, scopes };
    return ScreenBed.open(`/between-entities?scope=${scope}&as_at=2026-08`, PairsScreen, { workspace });
  }

  it('says that one entity has nobody to agree with', async () => {
    const bed = await open('LMG');
    expect(bed.text('[data-testid="empty"]')).toContain('One entity has nobody to agree with');
  });

  it('says who differs by what, and reads the documents of a pair where it is opened', async () => {
    const bed = await open('ALL');
    bed.reply('/groups/ALL/pairs', VIEW);
    await bed.settle();
    expect(bed.text('[data-testid="subtitle"]')).toContain('1 of 2 to be resolved');
    bed.page.querySelector<HTMLElement>('tbody button')!.click();
    await bed.settle();
    bed.reply('/groups/ALL/pairs/documents', DOCUMENTS);
    await bed.settle();
    const documents = bed.text('[data-testid="documents"]');
    for (const words of ['3 documents meet, 1 does not', 'INV-7', '5,000', 'Open has not booked INV-7', 'Post in Open'])
      expect(documents).toContain(words);
  });
});
