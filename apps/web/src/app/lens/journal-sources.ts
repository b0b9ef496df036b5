import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { catchError, concat, concatMap, defer, EMPTY, finalize, from, tap, type Observable } from 'rxjs';
import { inWords, sentenceCase } from '@margin-lens/core/shown';
import type { ErrorReply, JournalView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { AttachedFiles } from '../shared/attached-files';
import { UndoBar } from '../shared/undo-bar';
import { JournalFilesApi } from './journal-files-api';

/** What a journal was posted from: its documents where they lie, and files that hang on it, to open, add and take off. */
@Component({
  selector: 'ml-journal-sources',
  imports: [AttachedFiles],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (documents().length > 0) {
      <h3>Documents</h3>
      <ul data-testid="documents">
        @for (each of documents(); track each.document) {
          <li>
            @if (each.address) {
              <a [href]="each.address" target="_blank" rel="noopener noreferrer">{{ each.says }}</a>
            } @else {
              {{ each.says }}
            }
          </li>
        }
      </ul>
    }
    @if (!journal().hiddenLines) {
      <h3>Files</h3>
      @if (failure(); as error) {
        <p role="alert">{{ error.message }} {{ error.hint }}</p>
      }
      <ml-attached-files
        [files]="shown()"
        none="None: an invoice, a contract, a receipt."
        [isBusy]="isBusy()"
        (attach)="attach($event)"
        (detach)="detach($event)"
      />
    }
  `,
  styleUrl: './journal-sources.scss',
})
export class JournalSources {
  readonly journal = input.required<JournalView>();

  private readonly server = inject(Api);
  private readonly api = inject(JournalFilesApi);
  private readonly undoBar = inject(UndoBar);
  /** As they were read with the journal, or after the last change here. */
  private readonly files = linkedSignal(() => this.journal().files);
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  protected readonly documents = computed(() =>
    this.journal().documents.map(({ document, documentType, address }) => ({
      document,
      address,
      says: [sentenceCase(inWords(documentType)), document].filter(Boolean).join(' '),
    })),
  );
  protected readonly shown = computed(() =>
    this.files().map((file) => ({
      name: file.name,
      url: this.api.urlOf(this.journal().id, file),
      aside: file.document,
    })),
  );

  protected attach(files: readonly File[]): void {
    const journal = this.journal();
    this.write(from(files).pipe(concatMap((file) => this.api.keepAndAttach(journal, file))));
  }

  protected detach(at: number): void {
    const { id } = this.journal();
    const file = this.files()[at]!;
    const offer = () =>
      this.undoBar.offer(`“${file.name}” was taken off`, () => this.readAfter(this.api.attach(id, file))).subscribe();
    this.write(this.api.detach(id, file).pipe(tap(offer)));
  }

  private write(work: Observable<void>): void {
    this.failure.set(undefined);
    this.isBusy.set(true);
    this.readAfter(work)
      .pipe(finalize(() => this.isBusy.set(false)))
      .subscribe();
  }

  /** Reads the files anew behind a work, also one that went wrong half-way, unless another journal is shown by then. */
  private readAfter(work: Observable<void>): Observable<unknown> {
    const { id } = this.journal();
    const told = catchError((error: ErrorReply) => {
      this.failure.set(error);
      return EMPTY;
    });
    const read = defer(() => this.server.journal(id)).pipe(
      tap(({ files }) => {
        if (this.journal().id === id) this.files.set(files);
      }),
    );
    return concat(work.pipe(told), read.pipe(told));
  }
}
