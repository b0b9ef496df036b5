import type { Routes } from '@angular/router';
import { HomeRedirect } from './home-redirect';

export const routes: Routes = [
  { path: '', pathMatch: 'full', component: HomeRedirect },
  {
    path: 'statements/:id',
    loadComponent: () => import('./statement-screen/statement-screen').then((m) => m.StatementScreen),
  },
  { path: 'deliveries', loadComponent: () => import('./import-screen/import-screen').then((m) => m.ImportScreen) },
  { path: '**', redirectTo: '' },
];
