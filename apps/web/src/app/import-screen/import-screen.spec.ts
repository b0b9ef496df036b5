import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { ImportJobView } from '@margin-lens/contract';
import { ImportScreen } from './import-screen';
import { bytesInWords, countsInWords, stateWords } from './import-text';
import { formOf } from './read-dropped-files';

const JOB: ImportJobView = {
  id: '1',
  fileName: 'delivery',
  state: 'refused',
  progress: { file: '', rows: 0, bytesRead: 0, bytesTotal: 0 },
  earlier: null,
  inspection: null,
  survey: null,
  unmatched: [],
  effect: null,
  isComplete: false,
  counts: null,
  seconds: null,
  error: null,
  findings: {
    errors: 1500,
    shown: [
      {
        code: 'CORE_CELL_NUMBER',
        severity: 'error',
        message: '“12,5” is not a number.',
        hint: 'Write 12.5.',
        file: 'journals.csv',
        line: 7,
        column: 'debit',
      },
    ],
    countByCode: [{ code: 'CORE_CELL_NUMBER', message: 'Write plain digits.', count: 1500 }],
  },
};

const NONE = {
  journals: 0,
  lines: 0,
  unchangedJournals: 0,
  changedJournals: 0,
  removedJournals: 0,
  figures: 0,
  changedFigures: 0,
  unchangedFigures: 0,
  documents: 0,
  masters: {},
};

describe('words of deliveries', () => {
  it('say where a delivery stands and what it brought', () => {
    expect(stateWords(JOB)).toBe('delivery was not brought in: 1,500 errors');
    expect(countsInWords(NONE)).toBe('Nothing new');
    expect(countsInWords({ ...NONE, journals: 1, lines: 2, documents: 1 })).toBe(
      '1 journal with 2 lines, 1 layout or statement',
    );
    expect(countsInWords({ ...NONE, changedJournals: 2, removedJournals: 1 })).toBe(
      '2 journals changed, 1 journal removed',
    );
    const masters = {
      accounts: { added: 1, changed: 2, unchanged: 9 },
      stock_held: { added: 3, changed: 0, unchanged: 0 },
      rates: { added: 0, changed: 0, unchanged: 4 },
    };
    expect(countsInWords({ ...NONE, masters })).toBe('3 rows of stock held, 2 accounts changed, 1 account');
    expect([bytesInWords(900), bytesInWords(2_500_000)]).toEqual(['1 kB', '2.5 MB']);
  });

  it('name fields of the form by path, since browsers cut file names', () => {
    const form = formOf([{ path: 'pack/layouts/a.json', file: new File(['{}'], 'a.json') }]);
    expect([...form.keys()]).toEqual(['pack/layouts/a.json']);
  });
});

describe('ImportScreen', () => {
  it('says of a delivery that cannot be undone yet what stands before it', async () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([])] });
    const fixture = TestBed.createComponent(ImportScreen);
    TestBed.tick();
    const http = TestBed.inject(HttpTestingController);
    const run = (id: number, canUndo: boolean, undone: object | null = null) => ({
      ...{ id, fileName: `${id}.zip`, digest: 'a'.repeat(64), person: 'Ines', finishedAt: '2026-08-31T10:00:00Z' },
      ...{ seconds: 1, counts: NONE, canUndo, undone },
    });
    const undone = { at: '2026-08-31T12:00:00Z', person: 'Ines' };
    http
      .expectOne('/api/v1/imports')
      .flush({ runs: [run(3, false, undone), run(2, true), run(1, false)], running: null });
    http.expectOne('/api/v1/workspace').flush({}, { status: 500, statusText: 'x' });
    await fixture.whenStable();
    const rows = [...(fixture.nativeElement as HTMLElement).querySelectorAll('tbody tr')].map((row) => row.textContent);
    expect(rows.map((text) => /once later ones are undone/.test(text))).toEqual([false, false, true]);
  });

  it('shows a refused delivery with file, line, column and remedy, and counts what is not shown', async () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([])] });
    const fixture = TestBed.createComponent(ImportScreen);
    TestBed.tick();
    const http = TestBed.inject(HttpTestingController);
    http.expectOne('/api/v1/imports').flush({ runs: [], running: null });
    http.expectOne('/api/v1/workspace').flush({}, { status: 500, statusText: 'x' });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('[data-testid="no-runs"]')?.textContent).toContain('Nothing yet');

    const input = page.querySelector<HTMLInputElement>('[data-testid="file"]')!;
    Object.defineProperty(input, 'files', { value: [new File(['x'], 'delivery.zip')] });
    input.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(page.textContent).toContain('Sending the files');
    globalThis.EventSource = class {
      close() {
        /* nothing is followed here */
      }
    } as never;
    http.expectOne({ method: 'POST', url: '/api/v1/imports' }).flush(JOB);
    http.expectOne('/api/v1/imports').flush({ runs: [], running: null });
    await fixture.whenStable();
    const table = page.querySelector('ml-findings-table')!.textContent!;
    for (const words of ['journals.csv', '7', 'debit', '“12,5” is not a number.', 'Write 12.5.', '1,500'])
      expect(table).toContain(words);
  });
});
