import type { AllocationEffectView, DocumentView, MakingsView } from '@margin-lens/contract';
import type { AllocationDocument } from '@margin-lens/core';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { ScreenBed } from '../testing/screen-bed';
import { AllocationsScreen } from './allocations-screen';

const MAKINGS: MakingsView = {
  accounts: [],
  dimensions: [
    {
      name: 'department',
      values: ['it', 'press'].map((value) => ({ value, name: value.toUpperCase(), parent: '' })),
    },
  ],
  ...{ versions: [], cashFlowLines: [], rowLayouts: [], partners: [] },
};
const SUPPORT: AllocationDocument = {
  ...{ schema: 1, kind: 'allocation', id: 'support', name: 'Support', dimension: 'department', method: 'direct' },
  accounts: { include: [{ by: 'nature', nature: 'expense' }] },
  steps: [
    {
      ...{ id: 's1', name: 'IT by seats', from: ['it'], to: ['press'] },
      key: { by: 'fixed', weights: [{ value: 'press', weight: 4 }] },
    },
  ],
};
const VIEW: DocumentView = {
  ...{
    document: SUPPORT,
    base: 7,
    changedBy: 'Controller',
    changedAt: '2026-11-24T10:00:00Z',
    draft: null,
    usedBy: [],
  },
};
const EFFECT: AllocationEffectView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR', digits: 2 },
  span: 'April – August 2026',
  steps: [{ id: 's1', name: 'IT by seats', amount: 500, unspread: ['May 2026'] }],
  values: [
    { value: 'it', name: 'IT', posted: 500, moved: [-500], after: 0 },
    { value: 'press', name: 'PRESS', posted: 100, moved: [500], after: 600 },
  ],
  unassigned: 30,
};

describe('AllocationsScreen', () => {
  const open = (path: string) =>
    ScreenBed.open(`${path}?scope=LMG&as_at=2026-08`, AllocationsScreen, {
      data: path === '/allocations' ? {} : { id: 'support' },
      workspace: {
        ...SAMPLE_WORKSPACE,
        allocations: path === '/allocations' ? [] : [{ id: 'support', name: 'Support' }],
      },
    });

  it('says what an allocation is for where there is none', async () => {
    const bed = await open('/allocations');
    bed.reply('/documents/makings', MAKINGS);
    await bed.settle();
    expect(bed.text('[data-testid="empty"]')).toContain('No shared costs are spread yet');
  });

  it('shows what it does, the months without a key, and that nothing is lost', async () => {
    const bed = await open('/allocations/support');
    bed.reply('/documents/makings', MAKINGS);
    bed.reply('/documents/allocation/support', VIEW);
    await bed.settle();
    bed.reply('/allocations/support/effect', EFFECT);
    await bed.settle();
    expect(bed.text('[data-testid="unspread"]')).toContain('IT by seats has no key in May 2026');
    const rows = [...bed.page.querySelectorAll('[data-testid="effect"] tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent!.trim()).join(' '),
    );
    expect(rows).toEqual([
      'IT 5.00 (5.00) –',
      'PRESS 1.00 5.00 6.00',
      'Without a value 0.30 – 0.30',
      'Total 6.30 – 6.30',
    ]);
  });
});
