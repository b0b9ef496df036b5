import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { CashBasisQuery, CashBasisView } from '@margin-lens/contract';
import { ServerCalls } from '../shared/server-calls';

/** The cash basis, proved against cash accounts. */
@Injectable({ providedIn: 'root' })
export class CashApi extends ServerCalls {
  read(query: CashBasisQuery): Observable<CashBasisView> {
    return this.get('/cash-basis', query);
  }
}
