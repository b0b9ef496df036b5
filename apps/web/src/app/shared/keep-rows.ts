import { signal } from '@angular/core';
import type { MatDialogRef } from '@angular/material/dialog';
import { shareReplay } from 'rxjs';
import type { ErrorReply, SetupTableName } from '@margin-lens/contract';
import type { SetupApi } from './setup-api';
import { saveRows, type RowToSave } from './save-rows';

/** Keeps the rows of a table that a dialog is about, and closes it; what is wrong stays to be read. */
export class KeepRows {
  /** As the table stood when the dialog opened: what someone else has changed since is not overwritten. */
  private readonly table;
  readonly isSaving = signal(false);
  readonly problem = signal('');

  constructor(
    private readonly api: SetupApi,
    private readonly dialog: MatDialogRef<unknown, boolean>,
    private readonly name: SetupTableName,
  ) {
    this.table = api.setupTable(name).pipe(shareReplay(1));
    // read now, not when it is kept; a failure is told then
    this.table.subscribe({ error: () => undefined });
  }

  keep(put: readonly RowToSave[], remove: readonly RowToSave[] = []): void {
    this.isSaving.set(true);
    this.problem.set('');
    const fails = ({ message, hint }: Pick<ErrorReply, 'message' | 'hint'>) => {
      this.isSaving.set(false);
      this.problem.set(`${message} ${hint}`);
    };
    saveRows(this.api, this.table, { name: this.name, put, remove }).subscribe({
      next: (wrong) => (wrong ? fails(wrong) : this.dialog.close(true)),
      error: fails,
    });
  }
}
