import { Injectable, signal } from '@angular/core';
import type { Page } from '@margin-lens/core/shown';

/** What the browser prints in place of the screen: a page, made when it is asked for. Screens without one print as they are. */
@Injectable({ providedIn: 'root' })
export class Paper {
  readonly page = signal<(() => Page) | undefined>(undefined);
}
