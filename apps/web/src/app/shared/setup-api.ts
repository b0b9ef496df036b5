import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import { ServerCalls } from './server-calls';
import type {
  HolidaysView,
  SavedTable,
  SaveTable,
  SaveWorkspaceSetup,
  SetupTableName,
  SetupTableView,
  TableChangeView,
  UsesView,
  WorkspaceSetupView,
} from '@margin-lens/contract';

/** Tables of the setup, and the settings of the workspace. */
@Injectable({ providedIn: 'root' })
export class SetupApi extends ServerCalls {
  setupTable(name: SetupTableName): Observable<SetupTableView> {
    return this.get(`/setup/tables/${name}`);
  }

  saveSetupTable(name: SetupTableName, change: SaveTable): Observable<SavedTable> {
    return this.put(`/setup/tables/${name}`, change);
  }

  usesOf(name: SetupTableName, key: string[]): Observable<UsesView> {
    return this.post(`/setup/tables/${name}/uses`, { key });
  }

  setupHistory(name: SetupTableName): Observable<TableChangeView[]> {
    return this.get(`/setup/tables/${name}/history`);
  }

  workspaceSetup(): Observable<WorkspaceSetupView> {
    return this.get('/setup/workspace');
  }

  saveWorkspaceSetup(change: SaveWorkspaceSetup): Observable<WorkspaceSetupView> {
    return this.put('/setup/workspace', change);
  }

  holidays(query: Record<string, string>): Observable<HolidaysView> {
    return this.get('/setup/holidays', query);
  }
}
