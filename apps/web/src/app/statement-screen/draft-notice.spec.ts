import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { LibraryView, ListedDocument } from '@margin-lens/contract';
import { DraftNotice } from './draft-notice';

const listed = (kind: ListedDocument['kind'], id: string, hasDraft: boolean): ListedDocument => ({
  ...{ kind, id, name: id, note: '', archived: false, folder: '', purpose: null, holds: '', preview: [] },
  ...{ usedBy: [], changedBy: '', changedAt: '', hasDraft },
});

async function open(
  documents: ListedDocument[],
): Promise<{ text: string; press(): Promise<void>; shaped: () => number }> {
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  const fixture = TestBed.createComponent(DraftNotice);
  let shaped = 0;
  fixture.componentInstance.shape.subscribe(() => shaped++);
  const shown = {
    rowLayout: { id: 'rows', name: 'Rows', purpose: 'income' },
    columnLayout: { id: 'columns', name: 'Columns' },
  };
  fixture.componentRef.setInput('shown', { id: 'income', ...shown });
  await fixture.whenStable();
  const view: LibraryView = { documents, setAside: [] };
  TestBed.inject(HttpTestingController)
    .expectOne(({ url }) => url.endsWith('/documents'))
    .flush(view);
  await fixture.whenStable();
  const root = fixture.nativeElement as HTMLElement;
  return {
    text: root.textContent.trim().replace(/\s+/g, ' '),
    press: async () => {
      root.querySelector('button')!.click();
      await fixture.whenStable();
    },
    shaped: () => shaped,
  };
}

describe('a draft that waits', () => {
  it('is said where the statement is read, with the way on', async () => {
    const notice = await open([
      listed('row_layout', 'rows', true),
      listed('column_layout', 'columns', false),
      listed('statement', 'income', true),
    ]);
    expect(notice.text).toContain('A draft of its rows and how it is presented is not kept yet');
    await notice.press();
    expect(notice.shaped()).toBe(1);
  });

  it('of other layouts is not', async () => {
    const notice = await open([listed('row_layout', 'rows', false), listed('row_layout', 'other', true)]);
    expect(notice.text).toBe('');
  });
});
