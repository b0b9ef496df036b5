import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { SetupTableView } from '@margin-lens/contract';
import { TableSetupStore } from './table-setup-store';

const TABLE: SetupTableView = {
  name: 'entities',
  revision: 7,
  columns: ['code', 'name', 'currency'].map((name) => ({ name, type: 'text', required: true, choices: null })),
  key: ['code'],
  rows: [
    { cells: ['A', 'Alpha', 'EUR'], isPosted: true },
    { cells: ['B', 'Beta', 'PLN'], isPosted: false },
  ],
};
const URL = '/api/v1/setup/tables/entities';

describe('TableSetupStore', () => {
  const start = () => {
    TestBed.configureTestingModule({
      providers: [TableSetupStore, provideHttpClient(), provideHttpClientTesting()],
    });
    const store = TestBed.inject(TableSetupStore);
    const http = TestBed.inject(HttpTestingController);
    store.load('entities');
    http.expectOne(URL).flush(TABLE);
    return { store, http };
  };

  it('sends only what was changed, with the revision it was read at', () => {
    const { store, http } = start();
    const [alpha, beta] = store.draft.rows();
    store.draft.edit([{ row: alpha!, column: 1, text: 'Alpha Ltd' }]);
    store.draft.toggleRemoved(new Set([beta!.id]));
    store.save();
    const request = http.expectOne({ method: 'PUT', url: URL });
    expect(request.request.body).toEqual({ base: 7, put: [['A', 'Alpha Ltd', 'EUR']], remove: [['B']] });
    request.flush({
      issues: [],
      notes: ['One row heading follows.'],
      table: { ...TABLE, revision: 8, rows: [{ cells: ['A', 'Alpha Ltd', 'EUR'], isPosted: true }] },
    });
    expect([store.savedCount(), store.notes(), store.draft.changed()]).toEqual([2, ['One row heading follows.'], []]);
  });

  it('keeps the draft when something in it is wrong, and marks the row and column', () => {
    const { store, http } = start();
    store.draft.add([['C', '', 'EURO']]);
    store.draft.edit([{ row: store.draft.rows()[1]!, column: 1, text: 'Beta sp. z o.o.' }]);
    store.save();
    const issues = [
      {
        code: 'CORE_CELL_CURRENCY',
        severity: 'error',
        message: '“EURO” is no currency.',
        hint: '',
        line: 2,
        column: 'currency',
      },
    ];
    http.expectOne({ method: 'PUT', url: URL }).flush({ issues, notes: [], table: TABLE });
    expect(store.draft.changed()).toHaveLength(2);
    const added = store.draft.rows().at(-1)!;
    expect(store.problems().get(added.id)?.get('currency')).toBe('“EURO” is no currency.');
  });

  it('knows rows with postings, and brings back what was before a change', () => {
    const { store } = start();
    const [alpha, beta] = store.draft.rows();
    expect([store.isPosted(alpha!), store.isPosted(beta!)]).toEqual([true, false]);
    store.bringBack({
      revision: 6,
      at: '',
      person: '',
      action: '',
      more: 0,
      rows: [
        { before: ['A', 'Old Alpha', 'EUR'], after: ['A', 'Alpha', 'EUR'] },
        { before: null, after: ['B', 'Beta', 'PLN'] },
        { before: ['G', 'Gone', 'GBP'], after: null },
      ],
    });
    expect(store.draft.rows().map(({ cells, isRemoved }) => [cells[1], isRemoved])).toEqual([
      ['Old Alpha', false],
      ['Beta', true],
      ['Gone', false],
    ]);
  });

  it('says what could not be read and reads again', () => {
    const { store, http } = start();
    store.load('entities');
    http
      .expectOne(URL)
      .flush({ code: 'SRV_BUG', message: 'Something went wrong', hint: 'Try again' }, { status: 500, statusText: 'x' });
    expect(store.error()?.message).toBe('Something went wrong');
    store.load('entities');
    http.expectOne(URL).flush(TABLE);
    expect([store.error(), store.draft.rows().length]).toEqual([undefined, 2]);
  });
});
