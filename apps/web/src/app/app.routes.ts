import type { Routes } from '@angular/router';
import { HomeRedirect } from './home-redirect';
import { unsavedGuard } from './setup-screen/unsaved-guard';
import { StatementScreen } from './statement-screen/statement-screen';

export const routes: Routes = [
  { path: '', pathMatch: 'full', component: HomeRedirect },
  { path: 'statements/:id', component: StatementScreen }, // what opens, so it comes with the first script
  { path: 'breakdowns/:id', component: StatementScreen },
  ...['versions', 'versions/:code'].map((path) => ({
    path,
    canDeactivate: [unsavedGuard],
    loadComponent: () => import('./versions-screen/versions-screen').then((m) => m.VersionsScreen),
  })),
  {
    path: 'exceptions',
    loadComponent: () => import('./exceptions-screen/exceptions-screen').then((m) => m.ExceptionsScreen),
  },
  {
    path: 'packs/:id',
    canDeactivate: [unsavedGuard],
    loadComponent: () => import('./packs-screen/pack-screen').then((m) => m.PackScreen),
  },
  ...['packs', 'statements', 'breakdowns'].map((path) => ({
    path,
    pathMatch: 'full' as const,
    loadComponent: () => import('./statements-screen/statements-screen').then((m) => m.StatementsScreen),
  })),
  {
    path: 'month-end',
    canDeactivate: [unsavedGuard],
    loadComponent: () => import('./month-end-screen/month-end-screen').then((m) => m.MonthEndScreen),
  },
  {
    path: 'evidence',
    canDeactivate: [unsavedGuard],
    loadComponent: () => import('./evidence-screen/evidence-screen').then((m) => m.EvidenceScreen),
  },
  {
    path: 'structure',
    loadComponent: () => import('./structure-screen/structure-screen').then((m) => m.StructureScreen),
  },
  {
    path: 'rates',
    canDeactivate: [unsavedGuard],
    loadComponent: () => import('./rates-screen/rates-screen').then((m) => m.RatesScreen),
  },
  {
    path: 'translation',
    loadComponent: () => import('./translation-screen/translation-screen').then((m) => m.TranslationScreen),
  },
  {
    path: 'readiness',
    loadComponent: () => import('./readiness-screen/readiness-screen').then((m) => m.ReadinessScreen),
  },
  {
    path: 'eliminations',
    loadComponent: () => import('./eliminations-screen/eliminations-screen').then((m) => m.EliminationsScreen),
  },
  {
    path: 'between-entities',
    loadComponent: () => import('./pairs-screen/pairs-screen').then((m) => m.PairsScreen),
  },
  {
    path: 'mapping',
    loadComponent: () => import('./mapping-screen/mapping-screen').then((m) => m.MappingScreen),
  },
  {
    path: 'tie-outs',
    loadComponent: () => import('./tie-outs-screen/tie-outs-screen').then((m) => m.TieOutsScreen),
  },
  {
    path: 'ledger',
    loadComponent: () => import('./ledger-screen/trial-balance-screen').then((m) => m.TrialBalanceScreen),
  },
  {
    path: 'ledger/completeness',
    loadComponent: () => import('./ledger-screen/completeness-screen').then((m) => m.CompletenessScreen),
  },
  {
    path: 'ledger/missing-values',
    loadComponent: () => import('./completions-screen/completions-screen').then((m) => m.CompletionsScreen),
    canDeactivate: [unsavedGuard],
  },
  {
    path: 'ledger/missing-values/:id',
    loadComponent: () => import('./completions-screen/completions-screen').then((m) => m.CompletionsScreen),
    canDeactivate: [unsavedGuard],
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
    path: 'allocations',
    loadComponent: () => import('./allocations-screen/allocations-screen').then((m) => m.AllocationsScreen),
    canDeactivate: [unsavedGuard],
  },
  {
    path: 'allocations/:id',
    loadComponent: () => import('./allocations-screen/allocations-screen').then((m) => m.AllocationsScreen),
    canDeactivate: [unsavedGuard],
  },
  {
    path: 'periods',
    loadComponent: () => import('./periods-screen/periods-screen').then((m) => m.PeriodsScreen),
  },
  {
    path: 'deliveries/compare',
    loadComponent: () => import('./comparison-screen/comparison-screen').then((m) => m.ComparisonScreen),
  },
  { path: 'deliveries', loadComponent: () => import('./import-screen/import-screen').then((m) => m.ImportScreen) },
  {
    path: 'setup',
    loadComponent: () => import('./setup-screen/setup-screen').then((m) => m.SetupScreen),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'accounts' },
      ...(
        [
          ...([
            'accounts',
            'entities',
            'dimensions',
            'attributes',
            'rates',
            'account_map',
            'value_map',
            'calendar_map',
          ] as const),
          ...(['standing_rules', 'stock_held', 'asset_transfers', 'impairments', 'associate_results'] as const),
          ...(['eliminations', 'source_links'] as const),
        ] as const
      ).map((table) => ({
        path: table.replace('_', '-'),
        data: { table },
        canDeactivate: [unsavedGuard],
        loadComponent: () => import('./setup-screen/table-setup-screen').then((m) => m.TableSetupScreen),
      })),
      {
        path: 'calendars',
        canDeactivate: [unsavedGuard],
        loadComponent: () => import('./setup-screen/calendars-screen').then((m) => m.CalendarsScreen),
      },
      {
        path: 'working-days',
        canDeactivate: [unsavedGuard],
        loadComponent: () => import('./setup-screen/working-days-screen').then((m) => m.WorkingDaysScreen),
      },
      {
        path: 'workspace',
        canDeactivate: [unsavedGuard],
        loadComponent: () => import('./setup-screen/workspace-screen').then((m) => m.WorkspaceScreen),
      },
    ],
  },
  { path: '**', redirectTo: '' },
];
