import type { EvidenceRow } from '@margin-lens/contract';
import type { DraftRow } from '../shared/sheet/sheet-model';
import { AT, cellsOf, changesOf, differenceOf, problemsOf, stateOf } from './evidence-sheet';

const ROW: EvidenceRow = {
  ...{ account: '1500', name: 'Trade receivables', balance: -1_250_00, state: 'agrees', difference: 0, since: '' },
  ...{ was: null, isOpen: false, before: null },
  evidence: {
    ...{ scope: 'LMG', account: '1500', period: 'FY2027-P05', source: 'sub_ledger', amount: -1_250_00 },
    ...{ dated: '2026-08-31', note: 'Open items', owner: 'Ines', accepted: false, files: [], balance: -1_250_00 },
    ...{ person: 'Controller', at: '2026-09-02T08:00:00.000Z' },
  },
};
const row = (edits: Partial<Record<keyof typeof AT, string>> = {}, of = ROW): DraftRow => {
  const base = cellsOf(of, 'EUR');
  const cells = [...base];
  for (const [name, text] of Object.entries(edits)) cells[AT[name as keyof typeof AT]] = text;
  return { id: 1, base, cells, isRemoved: false };
};
const PLACE = { scope: 'LMG', period: 'FY2027-P05', currency: 'EUR' };
const problems = (edits: Parameters<typeof row>[0]) => [
  ...(problemsOf([row(edits)], 'EUR')
    .get(1)
    ?.keys() ?? []),
];

describe('the sheet of evidence', () => {
  it('saves what it shows as it was, with figures as people write them', () => {
    expect(row().cells[AT.amount]).toBe('(1,250.00)');
    const { evidence } = ROW;
    const { balance: _, person: __, at: ___, ...kept } = evidence!;
    expect(changesOf([row()], PLACE)).toEqual({ put: [kept], remove: [] });
  });

  it.each([
    ['1,250.00', -2_500_00, 'differs'],
    ['-1250', 0, 'agrees'],
    ['(1,249.50)', -50, 'differs'],
    ['', undefined, 'open'],
    ['some', undefined, 'open'],
  ])('reads %s as it is typed: difference %s, %s', (amount, difference, state) => {
    expect(differenceOf(row({ amount }), 'EUR')).toBe(difference);
    expect(stateOf(row({ amount }), 'EUR')).toBe(state);
  });

  it('says what cannot be saved, where it is', () => {
    expect(problems({})).toEqual([]);
    expect(problems({ amount: 'some' })).toEqual(['amount']);
    expect(problems({ source: '' })).toEqual(['source']);
    expect(problems({ source: 'hearsay' })).toEqual(['source']);
    expect(problems({ source: 'None needed' })).toEqual(['amount']);
    expect(problems({ dated: '31 June' })).toEqual(['dated']);
    expect(problems({ accepted: 'yes', note: '' })).toEqual(['note']);
  });

  it('takes out what was emptied, and goes on with the owner of the month before', () => {
    const emptied = row({ source: '', amount: '', dated: '', note: '', owner: '' });
    expect(changesOf([emptied], PLACE)).toEqual({
      put: [],
      remove: [{ scope: 'LMG', account: '1500', period: 'FY2027-P05' }],
    });
    const next = { ...ROW, evidence: null, before: ROW.evidence };
    expect(cellsOf(next, 'EUR')[AT.owner]).toBe('Ines');
    expect(stateOf(row({}, next), 'EUR')).toBe('open');
  });
});
