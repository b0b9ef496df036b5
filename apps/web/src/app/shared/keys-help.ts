import { Injectable } from '@angular/core';
import { Subject } from 'rxjs';

/** Asks for the list of keys, from sheets that have the keyboard to themselves. */
@Injectable({ providedIn: 'root' })
export class KeysHelp {
  private readonly asks = new Subject<void>();
  readonly asked$ = this.asks.asObservable();

  open(): void {
    this.asks.next();
  }
}
