import type { Routes } from '@angular/router';
import { HomeRedirect } from './home-redirect';

export const routes: Routes = [
  { path: '', pathMatch: 'full', component: HomeRedirect },
  {
    path: 'statements/:id',
    loadComponent: () => import('./statement-screen/statement-screen').then((m) => m.StatementScreen),
  },
  {
    path: 'ledger',
    loadComponent: () => import('./ledger-screen/trial-balance-screen').then((m) => m.TrialBalanceScreen),
  },
  { path: 'ledger/lines', loadComponent: () => import('./ledger-screen/lines-screen').then((m) => m.LinesScreen) },
  {
    path: 'books-check',
    loadComponent: () => import('./books-check-screen/books-check-screen').then((m) => m.BooksCheckScreen),
  },
  {
    path: 'adjustments',
    loadComponent: () => import('./adjustments-screen/adjustments-screen').then((m) => m.AdjustmentsScreen),
  },
  {
    path: 'periods',
    loadComponent: () => import('./periods-screen/periods-screen').then((m) => m.PeriodsScreen),
  },
  { path: 'deliveries', loadComponent: () => import('./import-screen/import-screen').then((m) => m.ImportScreen) },
  { path: '**', redirectTo: '' },
];
