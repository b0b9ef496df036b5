import { TestBed } from '@angular/core/testing';
import type { AdjustmentsView } from '@margin-lens/contract';
import { ScreenBed } from '../testing/screen-bed';
import { AdjustmentsScreen } from './adjustments-screen';

const VIEW: AdjustmentsView = {
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  accounts: [
    { number: '6400', name: 'Kiln gas' },
    { number: '2570', name: 'Accruals' },
  ],
  partners: [{ code: 'LMT', name: 'Larkmoor Tile' }],
  adjustments: [
    {
      journalId: 9,
      number: 'ADJ-1',
      date: '2026-08-31',
      period: 'FY2027-P05',
      reason: 'Gas not invoiced',
      person: 'Controller',
      at: '2026-09-02T08:00:00Z',
      amount: 425_000,
      reversalOf: null,
    },
    {
      journalId: 10,
      number: 'ADJ-2',
      date: '2026-09-01',
      period: 'FY2027-P06',
      reason: 'Gas not invoiced',
      person: 'Controller',
      at: '2026-09-02T08:00:00Z',
      amount: 425_000,
      reversalOf: 'ADJ-1',
    },
  ],
};

const PLAIN = { partner: '', values: {}, document: '', currency: '', currencyAmount: '' };
const BACK = { ...PLAIN, partner: 'LMT', values: { department: 'kiln_hall' }, document: 'R-7' };

async function open(view: AdjustmentsView = VIEW): Promise<ScreenBed> {
  const bed = await ScreenBed.open('/adjustments?scope=LMG&as_at=2026-08', AdjustmentsScreen);
  bed.reply('/adjustments', view);
  await bed.settle();
  return bed;
}

async function write(bed: ScreenBed): Promise<void> {
  await bed.press('New adjustment');
  await bed.type('Reason', 'Gas of August');
  await bed.type('Account of line 1', '6400');
  await bed.type('Debit of line 1', '4,250.00');
  await bed.type('Account of line 2', '2570');
}

describe('AdjustmentsScreen', () => {
  it('lists adjustments with what they reverse; only the first of a pair can be taken out', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="adjustments"]')).toContain('Reverses ADJ-1: Gas not invoiced');
    expect(bed.text('[data-testid="adjustments"]').match(/Delete/g)).toHaveLength(1);
    expect((await openEmpty()).text('[data-testid="empty"]')).toContain('Nothing was adjusted by hand');
  });

  const openEmpty = () => {
    TestBed.resetTestingModule();
    return open({ ...VIEW, adjustments: [] });
  };

  it('cannot be posted before it balances, has a reason and knows its accounts', async () => {
    const bed = await open();
    await write(bed);
    const post = bed.byId<HTMLButtonElement>('post');
    expect([post.disabled, bed.text('tfoot')]).toEqual([true, expect.stringContaining('Off by 4,250.00')]);
    await bed.type('Credit of line 2', '4250');
    expect([post.disabled, bed.text('tfoot')]).toEqual([false, expect.stringContaining('Debits and credits agree')]);
    await bed.type('Account of line 2', '9999');
    expect([post.disabled, bed.text('[data-testid="draft"]')]).toEqual([
      true,
      expect.stringContaining('no such account'),
    ]);
    await bed.type('Account of line 2', '2570');
    await bed.type('Reason', ' ');
    expect(post.disabled).toBe(true);
  });

  it('fills in what is missing to balance, on the side where it is missing', async () => {
    const bed = await open();
    await write(bed);
    [...bed.page.querySelectorAll('button')].filter((button) => button.textContent.trim() === 'balance')[1]!.click();
    await bed.settle();
    expect([bed.field('Debit of line 2').value, bed.field('Credit of line 2').value]).toEqual(['', '4250.00']);
  });

  it('says what is no amount in a currency, and which partner there is not', async () => {
    const bed = await open();
    await write(bed);
    await bed.type('Credit of line 2', '1.200,50');
    expect(bed.text('[data-testid="obstacle"]')).toBe('“1.200,50” is no amount; write 1,234.50 or 1234.50.');
    await bed.type('Credit of line 2', '4,250.00');
    await bed.type('Amount in the currency of the document of line 2', 'ZLOTY 5');
    expect(bed.text('[data-testid="obstacle"]')).toContain('write PLN 1,234.50');
    await bed.type('Amount in the currency of the document of line 2', '');
    await bed.type('Partner of line 2', 'NOBODY');
    expect(bed.text('[data-testid="obstacle"]')).toBe('There is no partner NOBODY.');
  });

  it('is sent in plain figures; what is wrong with it stands there, and what was typed stays', async () => {
    const bed = await open();
    await write(bed);
    await bed.type('Credit of line 2', '4,250.00');
    await bed.type('Partner of line 2', 'LMT');
    await bed.type('Document of line 2', 'R-7');
    await bed.type('Amount in the currency of the document of line 2', 'pln 18,062.50');
    bed.byId('post').closest('form')!.dispatchEvent(new Event('submit'));
    const issues = [{ code: 'X', severity: 'error', line: 2, message: 'FY2027-P05 is closed.', hint: 'Open it.' }];
    const { request } = bed.reply('/adjustments', { journals: [], issues }, 'POST');
    expect(request.body).toEqual({
      entity: 'LMG',
      date: '2026-08-28',
      period: '',
      reason: 'Gas of August',
      reverses: false,
      lines: [
        { ...PLAIN, account: '6400', description: '', debit: '4250.00', credit: '' },
        {
          ...{ account: '2570', description: '', debit: '', credit: '4250.00' },
          ...{ partner: 'LMT', values: {}, document: 'R-7', currency: 'PLN', currencyAmount: '-18062.50' },
        },
      ],
    });
    await bed.settle();
    expect(bed.text('[data-testid="draft"]')).toContain('Line 2: FY2027-P05 is closed. Open it.');
    expect(bed.field('Debit of line 1').value).toBe('4,250.00');
  });

  /** Deletes the first adjustment and asks for it back; what was asked for is returned, for an answer. */
  async function broughtBack(bed: ScreenBed, answer: object) {
    await bed.press('Delete');
    const line = {
      ...{ description: 'Gas', date: '2026-08-31', debit: 0, credit: 0, document: 'R-7' },
      ...{
        currency: 'EUR',
        currencyAmount: null,
        attributes: [
          { name: 'partner', value: 'LMT', text: 'Larkmoor Tile' },
          { name: 'department', value: 'kiln_hall', text: 'Kiln hall' },
        ],
      },
    };
    bed.reply('/journals/9', {
      entity: { code: 'LMG', name: 'Larkmoor Ceramics' },
      currency: { code: 'EUR', digits: 2 },
      lines: [
        { ...line, account: '6400', debit: 425_000 },
        { ...line, account: '2570', credit: 425_000 },
      ],
    });
    bed.reply('/adjustments/9', {}, 'DELETE');
    await bed.settle();
    const bar = document.querySelector<HTMLElement>('mat-snack-bar-container')!;
    expect(bar.textContent).toContain('ADJ-1 is deleted');
    bar.querySelector('button')!.click();
    await bed.settle();
    const { request } = bed.reply('/adjustments', answer, 'POST');
    await bed.settle();
    return request;
  }

  it('brings back what was deleted, with its reversal', async () => {
    const bed = await open();
    const { body } = await broughtBack(bed, { journals: ['ADJ-3'], issues: [] });
    expect(body).toEqual({
      ...{ entity: 'LMG', date: '2026-08-31', period: '', reason: 'Gas not invoiced', reverses: true },
      lines: [
        { ...BACK, account: '6400', description: 'Gas', debit: '4250.00', credit: '' },
        { ...BACK, account: '2570', description: 'Gas', debit: '', credit: '4250.00' },
      ],
    });
  });

  it('keeps what cannot be brought back, with the reason, to be written anew', async () => {
    const bed = await open();
    const issue = { code: 'X', severity: 'error', message: 'FY2027-P05 is closed.', hint: 'Open it.' };
    await broughtBack(bed, { journals: [], issues: [issue] });
    expect(bed.text('[data-testid="draft"]')).toContain('FY2027-P05 is closed. Open it.');
    expect(['Reason', 'Account of line 1', 'Debit of line 1'].map((name) => bed.field(name).value)).toEqual([
      ...['Gas not invoiced', '6400', '4250.00'],
    ]);
  });
});
