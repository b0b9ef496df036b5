import { ChangeDetectionStrategy, Component, DestroyRef, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { first } from 'rxjs';
import { WorkspaceStore } from './shared/workspace-store';

/** The address without a path: the first statement, or the place where books are brought in. */
@Component({ selector: 'ml-home-redirect', template: '', changeDetection: ChangeDetectionStrategy.OnPush })
export class HomeRedirect {
  constructor() {
    const router = inject(Router);
    inject(WorkspaceStore)
      .loaded$.pipe(first(), takeUntilDestroyed(inject(DestroyRef)))
      .subscribe((workspace) => {
        const id = workspace.defaults.statement ?? workspace.statements[0]?.id;
        const target = !id ? ['/deliveries'] : ['/statements', id];
        void router.navigate(target, { replaceUrl: true });
      });
  }
}
