import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { switchMap, type Observable } from 'rxjs';

/** How long what was deleted can be brought back from the bar, in milliseconds. */
const UNDO_MS = 10_000; // 5,000 to 20,000

/** Says what was deleted, and brings it back. */
@Injectable({ providedIn: 'root' })
export class UndoBar {
  private readonly snackBar = inject(MatSnackBar);

  /** Emits what bringing it back gives, once the person asked for it. */
  offer<T>(words: string, bringBack: () => Observable<T>): Observable<T> {
    return this.snackBar.open(words, 'Undo', { duration: UNDO_MS }).onAction().pipe(switchMap(bringBack));
  }
}
