import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { momentInWords } from '../shared/moment';
import { WorkspaceStore } from '../shared/workspace-store';
import { FindingsTable } from './findings-table';
import { ImportStore } from './import-store';
import { bytesInWords, countsInWords, stateWords } from './import-text';
import { filesOfInput, readDroppedFiles } from './read-dropped-files';

/** Brings deliveries into the books: drop, progress, findings, what was brought in before. */
@Component({
  selector: 'ml-import-screen',
  imports: [FindingsTable, MatProgressBarModule, RouterLink],
  providers: [ImportStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './import-screen.html',
  styleUrl: './import-screen.scss',
})
export class ImportScreen {
  protected readonly store = inject(ImportStore);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly isOver = signal(false);

  protected readonly job = this.store.job;
  protected readonly heading = computed(() => {
    const job = this.job();
    return job && stateWords(job);
  });
  protected readonly isRunning = computed(() => ['preparing', 'reading'].includes(this.job()?.state ?? ''));
  protected readonly isBusy = computed(
    () => this.store.isSending() || this.isRunning() || this.job()?.state === 'asking',
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
          : `${file}: ${rows.toLocaleString('en-GB')} rows · ${bytesInWords(bytesRead)} of ${bytesInWords(bytesTotal)}`,
    };
  });
  protected readonly brought = computed(() => {
    const counts = this.job()?.counts;
    return counts ? `${countsInWords(counts)}, in ${(this.job()?.seconds ?? 0).toFixed(1)} s` : '';
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
      mark: run.digest.slice(0, 12),
    })),
  );
  protected readonly statement = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded'
      ? (state.workspace.defaults.statement ?? state.workspace.statements[0]?.id)
      : undefined;
  });

  constructor() {
    document.title = 'Deliveries – Margin Lens';
    this.store.load();
    inject(DestroyRef).onDestroy(() => this.store.stop());
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
