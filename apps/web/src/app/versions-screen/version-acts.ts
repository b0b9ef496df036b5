import { computed, inject, Injectable, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { combineLatest, filter, switchMap, take } from 'rxjs';
import type { ErrorReply, NewVersion, VersionSettings, VersionState, VersionView } from '@margin-lens/contract';
import { UndoBar } from '../shared/undo-bar';
import { Api } from '../shared/api';
import { VersionsApi } from '../shared/versions-api';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { AdoptDialog, type AdoptionQuestion } from './adopt-dialog';
import type { FigureWords } from './figure-words';
import { DeleteVersionDialog } from './delete-version-dialog';
import { NewVersionDialog, type NewVersionQuestion } from './new-version-dialog';
import { ReasonDialog, type ReasonQuestion } from './reason-dialog';
import { VersionSettingsDialog, type SettingsQuestion } from './version-settings-dialog';
import { NEXT_STEP } from './version-text';
import { VersionsStore } from './versions-store';

/** Room for three fields beside each other. */
const WIDE = { width: '680px', maxWidth: 'calc(100vw - 32px)' };

/** What a person does to a version as a whole: what is asked first, and where it leads. */
@Injectable()
export class VersionActs {
  private readonly store = inject(VersionsStore);
  private readonly api = inject(Api);
  private readonly versions = inject(VersionsApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly contexts = inject(ContextStore);
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  private readonly undoBar = inject(UndoBar);
  private readonly all = computed(() => this.store.answer().view ?? []);
  readonly failure = signal<ErrorReply | undefined>(undefined);

  go(code: string, replaceUrl = false): void {
    void this.router.navigate(['/versions', code], { queryParamsHandling: 'merge', replaceUrl });
  }

  make(start: Partial<NewVersion> = {}): void {
    const context = this.contexts.context();
    if (!context) return;
    const lastActual =
      context.periods.findLast(({ key, kind }) => kind === 'regular' && context.scope.posted.includes(key))?.key ?? '';
    const data: NewVersionQuestion = { versions: this.all(), periods: context.periods, lastActual, start };
    this.dialog
      .open<NewVersionDialog, NewVersionQuestion, NewVersion>(NewVersionDialog, { data })
      .afterClosed()
      .pipe(
        filter((wanted) => wanted !== undefined),
        switchMap((wanted) => this.store.create(wanted)),
      )
      .subscribe(this.told((code) => this.go(code)));
  }

  setUp(version: VersionView): void {
    const { code } = version;
    const others = this.all().filter((other) => other.code !== code);
    const periods = this.contexts.context()?.periods ?? [];
    combineLatest([this.api.people(), this.workspaces.loaded$])
      .pipe(
        take(1),
        switchMap(([people, { entities, dimensions }]) => {
          const data: SettingsQuestion = { version, others, periods, people, entities, dimensions };
          return this.dialog
            .open<VersionSettingsDialog, SettingsQuestion, VersionSettings>(VersionSettingsDialog, { data, ...WIDE })
            .afterClosed();
        }),
        filter((settings) => settings !== undefined),
        switchMap((settings) => this.store.setUp(code, settings)),
      )
      .subscribe(this.told());
  }

  branch({ code, name }: VersionView): void {
    this.make({ kind: 'branch', parent: code, name: `${name}, branch` });
  }

  copy({ code, name, kind, from, to, cutOver, opening }: VersionView): void {
    this.make({
      kind: kind === 'branch' ? 'plan' : kind,
      name: `${name}, copy`,
      from,
      to,
      cutOver,
      copyOf: code,
      opening,
    });
  }

  moveOn(version: VersionView): void {
    const next = NEXT_STEP[version.state];
    if (next) this.store.move(version.code, { to: next.to, reason: '' }).subscribe(this.told());
  }

  sendBack(version: VersionView, to: VersionState): void {
    const data: ReasonQuestion = {
      title: `Send ${version.name} back`,
      says: 'Its figures can be changed again. The reason stays in its history.',
      act: 'Send it back',
    };
    this.dialog
      .open<ReasonDialog, ReasonQuestion, string>(ReasonDialog, { data, width: '420px' })
      .afterClosed()
      .pipe(
        filter((reason) => reason !== undefined),
        switchMap((reason) => this.store.move(version.code, { to, reason })),
      )
      .subscribe(this.told());
  }

  revise({ code }: VersionView): void {
    this.store
      .revise(code)
      .subscribe(
        this.told((made) =>
          this.router.navigate(['/versions', made], { queryParams: { with: code }, queryParamsHandling: 'merge' }),
        ),
      );
  }

  /** Takes a branch over, once a person has seen what it changes. */
  adopt(version: VersionView, words: FigureWords): void {
    this.versions
      .adoption(version.code)
      .pipe(
        switchMap((adoption) => {
          const data: AdoptionQuestion = { branch: version.name, adoption, words };
          return this.dialog.open<AdoptDialog, AdoptionQuestion, boolean>(AdoptDialog, { data, ...WIDE }).afterClosed();
        }),
        filter((isSure) => isSure === true),
        switchMap(() => this.store.adopt(version.code)),
      )
      .subscribe(this.told(() => this.go(version.parent)));
  }

  remove(version: VersionView): void {
    const { code, name } = version;
    this.dialog
      .open<DeleteVersionDialog, VersionView, boolean>(DeleteVersionDialog, { data: version })
      .afterClosed()
      .pipe(
        filter((isSure) => isSure === true),
        switchMap(() => this.store.remove(code)),
      )
      .subscribe(
        this.told(() => {
          void this.router.navigate(['/versions'], { queryParamsHandling: 'merge' });
          this.undoBar
            .offer(`${name} is deleted`, () => this.store.bringBack(code))
            .subscribe(this.told(() => this.go(code)));
        }),
      );
  }

  /** Runs what follows a success, and shows a failure. */
  told<T>(done: (result: T) => unknown = () => undefined) {
    this.failure.set(undefined);
    return { next: (result: T) => void done(result), error: (error: ErrorReply) => this.failure.set(error) };
  }
}
