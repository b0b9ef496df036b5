import { Injectable, signal } from '@angular/core';

/** What is selected, summed, for the foot; empty when nothing is. */
@Injectable({ providedIn: 'root' })
export class SelectionSum {
  readonly words = signal('');
}
