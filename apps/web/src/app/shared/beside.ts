import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import type { StatementContext } from '@margin-lens/contract';
import { ContextStore } from './context-store';
import { asAtText } from './view-context';

/** What stands beside, in the address of the window. */
export const BESIDE = 'beside';

/** What was selected on one side, so that the other can follow where it shows it, too. */
export interface Picked {
  /** Row of a row layout. */
  row?: string;
  /** Column of a statement. */
  column?: string;
  /** Number of an account. */
  account?: string;
  /** A figure of a statement, of which there may be journal lines. */
  figure?: { statement: string; context: StatementContext; address: string };
  /** Journal lines: those of accounts in some periods, by their keys. */
  lines?: { account: string; from: string; to: string };
}

/** As at and scope, which both sides share. */
interface Shared {
  scope: string;
  as_at: string;
}

type Message =
  | ({ says: 'shared' } & Shared)
  | { says: 'picked'; picked: Picked }
  /** From the pane: where it is; to the pane: where it is to go. */
  | { says: 'at' | 'go'; path: string }
  /** To the other side: the keyboard is its. */
  | { says: 'focus' }
  /** To the pane: it is to leave what it shows; from the pane: it has. */
  | { says: 'leave' | 'left' };

/**
 * Two places side by side: the window, and a pane in it that is the same application once more. They share as at and scope,
 * and tell each other what is selected. The pane's place stands in the address of the window.
 */
@Injectable({ providedIn: 'root' })
export class Beside {
  private readonly contexts = inject(ContextStore);

  /** Whether this is the pane: nothing but the application itself can be around it. */
  readonly isPane = window.parent !== window;
  /** Of the window: the pane, while there is one. */
  readonly pane = signal<Window | undefined>(undefined);
  /** What was selected on the other side last. */
  readonly picked = signal<Picked | undefined>(undefined);
  private readonly listeners = new Map<Message['says'], (message: Message) => void>();
  private shared = '';

  constructor() {
    window.addEventListener('message', (event: MessageEvent<Message>) => {
      if (event.origin !== location.origin || event.source !== this.other()) return;
      this.take(event.data);
    });
    effect(() => {
      const shared = this.ownShared();
      const isThere = this.isPane || this.pane() !== undefined;
      if (!shared || !isThere) return;
      untracked(() => this.share(shared));
    });
  }

  /** Whether another place stands beside this one. */
  get isBeside(): boolean {
    return this.isPane || this.pane() !== undefined;
  }

  /** Puts a place beside, or in the place of what stands there. */
  open(path: string): void {
    if (this.pane()) this.send({ says: 'go', path });
    else this.contexts.setParams({ [BESIDE]: path });
  }

  /** Tells the other side what was selected here. */
  pick(picked: Picked): void {
    if (this.isBeside) this.send({ says: 'picked', picked });
  }

  send(message: Message): void {
    this.other()?.postMessage(message, location.origin);
  }

  /** Has what the other side says done; one listener for each. */
  on<S extends Message['says']>(says: S, does: (message: Extract<Message, { says: S }>) => void): void {
    this.listeners.set(says, does as (message: Message) => void);
  }

  private other(): Window | undefined {
    return this.isPane ? window.parent : this.pane();
  }

  private ownShared(): Shared | undefined {
    const context = this.contexts.context();
    return context && { scope: context.scope.code, as_at: asAtText(context.asAt) };
  }

  private share(shared: Shared): void {
    const text = JSON.stringify(shared);
    if (text === this.shared) return;
    this.shared = text;
    this.send({ says: 'shared', ...shared });
  }

  private take(message: Message): void {
    if (message.says === 'picked') this.picked.set(message.picked);
    else if (message.says === 'shared') this.follow({ scope: message.scope, as_at: message.as_at });
    else this.listeners.get(message.says)?.(message);
  }

  private follow(shared: Shared): void {
    // on its way to its first place, to which it brings them; going elsewhere now would lose that
    if (this.contexts.path() === '/') return;
    this.shared = JSON.stringify(shared);
    if (JSON.stringify(this.ownShared()) !== this.shared)
      this.contexts.setParams({ ...shared, currency: null, trace: null }, true);
  }
}
