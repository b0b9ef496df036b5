import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { LiveRemark, RemarksView } from '@margin-lens/contract';
import { piecesOf, quotedText } from '@margin-lens/core/shown';
import { nextKey, quotesOfNow, remarkStates } from './remark-text';
import { RemarksPanel } from './remarks-panel';
import { RemarksStore } from './remarks-store';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const remark = (more: Partial<LiveRemark> = {}): LiveRemark => ({
  id: 'r1',
  scope: 'LMG',
  period: 'FY2027-P05',
  statement: 'income',
  row: 'energy',
  column: '',
  columns: '',
  text: 'Tariffs: {q1}',
  state: 'open',
  carries: '',
  quotes: [{ key: 'q1', cell: 'energy~change', context: { columns: 'plan' }, amount: -20_000_000, shown: '(200)' }],
  author: 'Ines',
  writtenAt: '2026-09-01T08:00:00.000Z',
  changedBy: 'Ines',
  changedAt: '2026-09-01T08:00:00.000Z',
  live: [{ amount: -20_000_000, unit: EUR }],
  ...more,
});

describe('the text of a remark', () => {
  it('holds quoted figures as they are now, and says what those were that moved or are gone', () => {
    expect(piecesOf(remark(), 1000)).toEqual([
      { text: 'Tariffs: ', isFigure: false, moved: '' },
      { text: '(200)', isFigure: true, moved: '' },
    ]);
    const [, moved] = piecesOf(remark({ live: [{ amount: -25_000_000, unit: EUR }] }), 1000);
    expect(moved).toEqual({ text: '(250)', isFigure: true, moved: 'was (200)' });
    expect(piecesOf(remark({ live: [null] }), 1000)[1]).toMatchObject({ text: '(200)', moved: 'no longer there' });
    const nothing = { amount: null, unit: EUR, reason: 'no_data' } as const;
    expect(piecesOf(remark({ live: [nothing] }), 1000)[1]).toMatchObject({
      text: '(200)',
      moved: 'now no figure: no data loaded',
    });
    expect(piecesOf({ text: '{q9} stays', quotes: [], live: [] }, 1)[0]).toMatchObject({
      text: '{q9}',
      isFigure: false,
    });
  });

  it('shows percentages with their sign, and words in place of what there is not', () => {
    expect(quotedText({ amount: -0.026, unit: { kind: 'ratio' } }, 1000)).toBe('−2.6\u00a0%');
    expect(quotedText({ amount: null, unit: EUR, word: 'new' }, 1)).toBe('new');
    expect(quotedText({ amount: null, unit: EUR, reason: 'no_data' }, 1)).toBe('no figure');
  });

  it('that is carried on begins with the figures of now', () => {
    const [quote] = quotesOfNow(remark({ live: [{ amount: -25_000_000, unit: EUR }] }), 1000);
    expect(quote).toMatchObject({ key: 'q1', amount: -25_000_000, shown: '(250)' });
    // where there is none now, what was quoted keeps its meaning
    const [kept] = quotesOfNow(remark({ live: [{ amount: null, unit: EUR, reason: 'no_data' }] }), 1000);
    expect(kept).toMatchObject({ amount: -20_000_000, shown: '(200)' });
    expect(nextKey([{ key: 'q1' }, { key: 'q3' }])).toBe('q4');
  });

  it('marks its row and, among its own columns, its cell', () => {
    const onCell = remark({ column: 'change', columns: 'plan', state: 'answered' });
    expect([...remarkStates([onCell], 'plan')]).toEqual([
      ['energy', 'answered'],
      ['energy~change', 'answered'],
    ]);
    expect([...remarkStates([onCell, remark()], 'other')]).toEqual([['energy', 'open']]);
  });
});

describe('the panel of remarks', () => {
  const CELL = { row: 'energy', column: 'change', columns: 'plan', name: 'Energy · Change' };
  const ROW = { row: 'energy', column: '', columns: '', name: 'Energy' };
  const PAGE = { row: '', column: '', columns: '', name: 'The page' };

  async function open(remarks: RemarksView = { remarks: [], proposals: [], before: '' }) {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    const fixture = TestBed.createComponent(RemarksPanel);
    const http = TestBed.inject(HttpTestingController);
    fixture.componentRef.setInput('page', { scope: 'LMG', period: 'FY2027-P05', statement: 'income' });
    fixture.componentRef.setInput('places', [CELL, ROW, PAGE]);
    fixture.componentRef.setInput('quotables', [
      {
        name: 'Change',
        cell: 'energy~change',
        context: { columns: 'plan' },
        figure: { amount: -2_000_000, unit: EUR },
      },
    ]);
    fixture.componentRef.setInput('unit', 1000);
    TestBed.inject(RemarksStore).ask({ scope: 'LMG', as_at: 'FY2027-P05', statement: 'income' });
    const settle = async () => {
      fixture.detectChanges();
      await fixture.whenStable();
    };
    await settle();
    http.expectOne(({ url }) => url.endsWith('/remarks')).flush(remarks);
    await settle();
    const root = fixture.nativeElement as HTMLElement;
    const byId = <T extends HTMLElement>(id: string) => root.querySelector<T>(`[data-testid="${id}"]`)!;
    const press = async (name: string) => {
      [...root.querySelectorAll('button')].find((button) => button.textContent!.trim() === name)!.click();
      await settle();
    };
    const type = async (text: string) => {
      const field = byId<HTMLTextAreaElement>('remark-text');
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await settle();
    };
    return { fixture, http, root, byId, press, type, settle };
  }

  it('groups remarks by cell, row and page', async () => {
    const { root } = await open({
      remarks: [remark(), remark({ id: 'r2', row: '', text: 'All well', quotes: [], live: [] })],
      proposals: [],
      before: '',
    });
    expect([...root.querySelectorAll('h3')].map(({ textContent }) => textContent!.trim())).toEqual([
      'Energy',
      'The page',
    ]);
  });

  it('writes about what was selected when it was begun, with the quoted figure shown below', async () => {
    const { fixture, http, byId, press, type, settle } = await open();
    await type('Tariffs rose');
    fixture.componentRef.setInput('places', [{ ...ROW, row: 'labour', name: 'Labour' }, PAGE]);
    await press('Change');
    expect(byId<HTMLTextAreaElement>('remark-text').value).toBe('Tariffs rose {q1}');
    expect(fixture.nativeElement.querySelector('.preview').textContent).toContain('(20)');
    byId('write').click();
    await settle();
    const { request } = http.expectOne(({ method }) => method === 'POST');
    expect(request.body).toMatchObject({
      row: 'energy',
      column: 'change',
      columns: 'plan',
      text: 'Tariffs rose {q1}',
      quotes: [{ key: 'q1', cell: 'energy~change', amount: -2_000_000, shown: '(20)' }],
    });
  });

  it('changes a remark, and leaves it as it was', async () => {
    const { http, byId, press, type } = await open({ remarks: [remark()], proposals: [], before: '' });
    await press('change');
    expect(byId<HTMLTextAreaElement>('remark-text').value).toBe('Tariffs: {q1}');
    await press('Cancel');
    expect(byId<HTMLTextAreaElement>('remark-text').value).toBe('');
    await press('change');
    await type('Paid in advance');
    await press('Save');
    const { request } = http.expectOne(({ method }) => method === 'PUT');
    expect(request.body).toMatchObject({ text: 'Paid in advance', quotes: [], row: 'energy' });
  });

  it('answers a remark by what is kept of it alone, with what it says of its variance', async () => {
    const explains = { kind: 'one_off', amount: -2_000_000, in: 'FY2027-P05', returns: '' } as const;
    const { http, press, byId } = await open({ remarks: [remark({ explains })], proposals: [], before: '' });
    expect(byId('explains').textContent).toBe('One-off');
    await press('answered');
    const { request } = http.expectOne(({ method }) => method === 'PUT');
    const { id: _, author: __, writtenAt: ___, changedBy: ____, changedAt: _____, live: ______, ...kept } = remark();
    expect(request.body).toEqual({ ...kept, state: 'answered', explains });
  });

  it('says what the server refused, and keeps the text', async () => {
    const { http, root, byId, press, type, settle } = await open();
    await type('Mine');
    await press('Add');
    http
      .expectOne(({ method }) => method === 'POST')
      .flush(
        { code: 'SRV_RIGHT_MISSING', message: 'You may not write remarks.', hint: 'Ask the controller.', details: [] },
        { status: 403, statusText: 'x' },
      );
    await settle();
    expect(root.querySelector('[role="alert"]')!.textContent).toContain('You may not write remarks.');
    expect(byId<HTMLTextAreaElement>('remark-text').value).toBe('Mine');
  });
});
