import { Injectable, signal } from '@angular/core';
import type { StatementView } from '@margin-lens/contract';

/** The statement on screen, for the parts of the frame that speak about it: ruler, light, foot. */
@Injectable({ providedIn: 'root' })
export class ShownStatement {
  readonly view = signal<StatementView | undefined>(undefined);
  /** Column whose span is lit on the ruler. */
  readonly litColumn = signal<string | undefined>(undefined);
}
