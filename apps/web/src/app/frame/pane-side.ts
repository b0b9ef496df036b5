import { effect, inject, Injectable } from '@angular/core';
import { Beside } from '../shared/beside';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';

/** What the pane does: it says where it is, goes where it is sent, and leaves when it is told to. */
@Injectable({ providedIn: 'root' })
export class PaneSide {
  private readonly beside = inject(Beside);
  private readonly contexts = inject(ContextStore);

  /** On the way to nowhere in particular, which is not said. */
  private isLeaving = false;

  constructor() {
    effect(() => {
      const path = this.contexts.address();
      // the address is the root until it is known where to go
      if (path !== '/' && !this.isLeaving) this.beside.send({ says: 'at', path });
    });
    this.beside.on('go', ({ path }) => {
      this.isLeaving = false;
      const context = this.contexts.context();
      const shared = context && { scope: context.scope.code, as_at: asAtText(context.asAt) };
      void this.contexts.visit(path, shared ?? {});
    });
    this.beside.on('leave', () => {
      this.isLeaving = true;
      void this.contexts.visit('/statements', {}).then((isLeft) => {
        this.isLeaving = isLeft;
        if (isLeft) this.beside.send({ says: 'left' });
      });
    });
  }
}
