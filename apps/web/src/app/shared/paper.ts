import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { Page } from '@margin-lens/core/shown';

/** What the browser prints in place of the screen: a page, made when it is asked for. Screens without one print as they are. */
@Injectable({ providedIn: 'root' })
export class Paper {
  private readonly shown = signal<() => Page | undefined>(() => undefined);

  /** Prints this page for as long as the caller stands on screen. */
  shows(page: () => Page | undefined): void {
    this.shown.set(page);
    inject(DestroyRef).onDestroy(() => this.shown.update((now) => (now === page ? () => undefined : now)));
  }

  page(): Page | undefined {
    return this.shown()();
  }
}
