import { map, type Observable } from 'rxjs';
import type { SetupApi } from './setup-api';

export interface ChartAccount {
  number: string;
  name: string;
}

/** Offered at most, of those that a typed text fits. */
const OFFERED = 30;

/** The accounts of the chart, in its order. */
export const chartAccounts = (api: SetupApi): Observable<ChartAccount[]> =>
  api.setupTable('accounts').pipe(
    map(({ columns, rows }) => {
      const [number, name] = ['number', 'name'].map((each) => columns.findIndex((column) => column.name === each));
      return rows.map(({ cells }) => ({ number: cells[number!]!, name: cells[name!]! }));
    }),
  );

/** The first accounts whose number or name holds a text. */
export const accountsThatFit = (accounts: readonly ChartAccount[], typed: string): ChartAccount[] => {
  const text = typed.trim().toLowerCase();
  return accounts.filter(({ number, name }) => `${number} ${name}`.toLowerCase().includes(text)).slice(0, OFFERED);
};
