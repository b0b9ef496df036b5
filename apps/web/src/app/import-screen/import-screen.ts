import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { Screen } from '../shared/screen';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogModule } from '@angular/material/dialog';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { CheckRequest } from '@margin-lens/contract';
import { countText, readablePlain } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { EffectCard } from './effect-card';
import { FindingsTable } from './findings-table';
import { ImportStore } from './import-store';
import { bytesInWords, countsInWords, stateWords } from './import-text';
import { MappingCard } from './mapping-card';
import { filesOfInput, readDroppedFiles } from './read-dropped-files';
import { StartCard } from './start-card';
import { UndoDialog, type UndoQuestion } from './undo-dialog';

/** States in which a delivery waits for a person. */
const WAITING: readonly string[] = ['asking', 'mapping', 'checked'];

/** Brings deliveries into the books: drop, progress, findings, what was brought in before. */
@Component({
  selector: 'ml-import-screen',
  imports: [
    Screen,
    EffectCard,
    FindingsTable,
    MappingCard,
    MatButtonModule,
    MatDialogModule,
    MatProgressBarModule,
    NgTemplateOutlet,
    RouterLink,
    StartCard,
  ],
  providers: [ImportStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './import-screen.scss'],
})
export class ImportScreen {
  protected readonly store = inject(ImportStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject(MatDialog);
  protected readonly packageUrl = inject(Api).packageUrl();
  protected readonly isOver = signal(false);

  protected readonly job = this.store.job;
  protected readonly heading = computed(() => {
    const job = this.job();
    return job && stateWords(job);
  });
  protected readonly isRunning = computed(() => ['preparing', 'reading'].includes(this.job()?.state ?? ''));
  /** What a delivery would change is shown. */
  protected readonly isShown = computed(() => this.job()?.state === 'checked' && !this.wentBack());
  /** How a foreign file is read can still be put right after the check has refused it. */
  protected readonly isMapping = computed(() => {
    const job = this.job();
    if (job?.state === 'checked') return !this.isShown();
    return job?.state === 'mapping' || (job?.state === 'refused' && job.inspection !== null);
  });
  /** From what a delivery would change, back to how it is read. */
  protected readonly wentBack = signal(false);
  /** What was set on a mapping stays while the file is read and checked. */
  protected readonly hasMapping = computed(() => {
    const job = this.job();
    return !!job?.inspection && !['done', 'cancelled', 'failed'].includes(job.state);
  });
  /** An empty workspace is started from what brings postings. */
  protected readonly isStarting = computed(() => {
    const inspection = this.hasMapping() ? this.job()?.inspection : undefined;
    return !!inspection?.startsWith && ['journals', 'trial_balance'].includes(inspection.mapping.purpose);
  });
  protected readonly isBusy = computed(
    () => this.store.isSending() || this.isRunning() || WAITING.includes(this.job()?.state ?? ''),
  );
  protected readonly progress = computed(() => {
    const { bytesRead, bytesTotal, file, rows } = this.job()?.progress ?? {
      bytesRead: 0,
      bytesTotal: 0,
      file: '',
      rows: 0,
    };
    return {
      percent: bytesTotal === 0 ? 0 : (100 * bytesRead) / bytesTotal,
      words:
        file === ''
          ? ''
          : `${file}: ${countText(rows)} rows · ${bytesInWords(bytesRead)} of ${bytesInWords(bytesTotal)}`,
    };
  });
  protected readonly brought = computed(() => {
    const counts = this.job()?.counts;
    return counts ? `${countsInWords(counts)}, in ${readablePlain((this.job()?.seconds ?? 0).toFixed(1))} s` : '';
  });
  protected readonly earlier = computed(() => {
    const earlier = this.job()?.earlier;
    return earlier ? `${momentInWords(earlier.finishedAt)} by ${earlier.person}` : '';
  });
  protected readonly runs = computed(() =>
    this.store.runs()?.map((run) => ({
      ...run,
      at: momentInWords(run.finishedAt),
      words: countsInWords(run.counts),
      mark: run.digest.slice(0, 8),
      undoneWords: run.undone ? `Undone ${momentInWords(run.undone.at)} by ${run.undone.person}` : '',
    })),
  );
  protected readonly statement = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded'
      ? (state.workspace.defaults.statement ?? state.workspace.statements[0]?.id)
      : undefined;
  });

  constructor() {
    this.store.load();
    inject(DestroyRef).onDestroy(() => this.store.stop());
  }

  protected undo({ id, fileName, words }: { id: number; fileName: string; words: string }): void {
    this.dialog
      .open<UndoDialog, UndoQuestion, boolean>(UndoDialog, { data: { fileName, words }, width: '460px' })
      .afterClosed()
      .subscribe((isSure) => isSure && this.store.undo(id));
  }

  protected check(request: CheckRequest): void {
    this.wentBack.set(false);
    this.store.check(request);
  }

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(!this.isBusy());
  }

  protected async drop(event: DragEvent): Promise<void> {
    event.preventDefault();
    this.isOver.set(false);
    if (event.dataTransfer && !this.isBusy()) this.store.send(await readDroppedFiles(event.dataTransfer));
  }

  protected choose(event: Event): void {
    const input = event.target as HTMLInputElement;
    this.store.send(filesOfInput(input));
    input.value = '';
  }
}
