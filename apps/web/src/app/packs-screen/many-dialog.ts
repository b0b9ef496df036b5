import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { switchMap, takeWhile, timer } from 'rxjs';
import type { ErrorReply, PackContext, PackFormat, PackRunView, PackTarget, PackView } from '@margin-lens/contract';
import { PacksApi } from './packs-api';
import { scopeOf } from '../shared/view-context';
import { InWordsPipe } from '../shared/in-words-pipe';
import { WorkspaceStore } from '../shared/workspace-store';

/** Which pack is made for many, and in what it is read. */
export interface ManyQuestion {
  id: string;
  name: string;
  context: PackContext;
  /** What says something of one of them, whoever it is made for. */
  bound: PackView['bound'];
}

/** How often it is asked how far a run is, in milliseconds. */
const ASK_EVERY = 500; // 100 to 5,000
/** What of it stands in place of a dimension where entities are chosen. */
const SCOPES = '';

const FORMATS: readonly { format: PackFormat; name: string }[] = [
  { format: 'pdf', name: 'PDF' },
  { format: 'xlsx', name: 'XLSX' },
  { format: 'docx', name: 'DOCX' },
  { format: 'pptx', name: 'PPTX' },
  { format: 'html', name: 'HTML' },
];

/** Makes one pack for many entities, groups or values: a file for each, with progress, and what failed and why. */
@Component({
  selector: 'ml-many-dialog',
  imports: [
    InWordsPipe,
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatProgressBarModule,
    MatSelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './many-dialog.html',
  styleUrl: './many-dialog.scss',
})
export class ManyDialog {
  protected readonly data = inject<ManyQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<ManyDialog>>(MatDialogRef);
  private readonly api = inject(PacksApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly destroyed = inject(DestroyRef);
  protected readonly FORMATS = FORMATS;
  protected readonly SCOPES = SCOPES;

  protected readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  /** Name of the dimension whose values are chosen; empty for entities and groups. */
  protected readonly by = signal(SCOPES);
  protected readonly format = signal<PackFormat>('pdf');
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly all = computed(() => {
    const workspace = this.workspace();
    if (!workspace) return [];
    if (this.by() !== SCOPES) {
      const values = workspace.dimensions.find(({ name }) => name === this.by())?.values ?? [];
      return values.map(({ value, name }) => ({ key: value, name: name || value, depth: 0 }));
    }
    return workspace.scopes.flatMap(({ code, depth }) => {
      const scope = scopeOf(workspace, code);
      return scope ? [{ key: code, name: scope.name, depth }] : [];
    });
  });
  protected readonly targets = computed(() =>
    this.all()
      .filter(({ key }) => !this.left().has(key))
      .map(({ key }): PackTarget => (this.by() === SCOPES ? { scope: key } : { dimension: this.by(), value: key })),
  );
  protected readonly run = signal<PackRunView | undefined>(undefined);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly done = computed(() => {
    const run = this.run();
    return run ? run.made.length + run.failed.length : 0;
  });

  constructor() {
    this.destroyed.onDestroy(() => {
      const run = this.run();
      if (run?.state === 'running') this.api.cancelPackRun(run.id).subscribe({ error: () => undefined });
    });
  }

  protected choose(by: string): void {
    this.by.set(by);
    this.left.set(new Set());
  }

  protected isTaken(key: string): boolean {
    return !this.left().has(key);
  }

  protected take(key: string, isTaken: boolean): void {
    const left = new Set(this.left());
    if (isTaken) left.delete(key);
    else left.add(key);
    this.left.set(left);
  }

  protected takeAll(areTaken: boolean): void {
    this.left.set(new Set(areTaken ? [] : this.all().map(({ key }) => key)));
  }

  protected begin(): void {
    const { id, context } = this.data;
    this.failure.set(undefined);
    this.ref.disableClose = true;
    this.api
      .makePackForMany(id, { context, format: this.format(), targets: this.targets() })
      .pipe(
        switchMap((run) => {
          this.run.set(run);
          return timer(ASK_EVERY, ASK_EVERY).pipe(switchMap(() => this.api.packRun(run.id)));
        }),
        takeWhile(({ state }) => state === 'running', true),
        takeUntilDestroyed(this.destroyed),
      )
      .subscribe({
        next: (run) => {
          this.run.set(run);
          if (run.state !== 'running') this.ref.disableClose = false;
        },
        error: (error: ErrorReply) => {
          this.ref.disableClose = false;
          this.run.set(undefined);
          this.failure.set(error);
        },
      });
  }

  protected cancel(): void {
    const run = this.run();
    if (run) this.api.cancelPackRun(run.id).subscribe((now) => this.run.set(now));
  }

  protected again(): void {
    this.run.set(undefined);
  }

  protected filesUrl(run: PackRunView): string {
    return this.api.packRunUrl(run.id);
  }
}
