import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { SETUP_TABS } from './setup-text';

/** The parts of the setup, on every one of its screens. */
@Component({
  selector: 'ml-setup-tabs',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Parts of the setup">
      @for (tab of TABS; track tab.path) {
        <a
          [routerLink]="['/setup', tab.path]"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          >{{ tab.label }}</a
        >
      }
    </nav>
  `,
  styles: `
    nav {
      display: flex;
      gap: 18px;
      padding: 9px 14px 0;
    }
    a {
      padding-bottom: 3px;
      border-bottom: 2px solid transparent;
      color: var(--ink-2);
      font-weight: 600;
      text-decoration: none;
    }
    a:hover {
      color: var(--ink);
    }
    a.here {
      border-bottom-color: var(--brand);
      color: var(--brand);
    }
  `,
})
export class SetupTabs {
  protected readonly TABS = SETUP_TABS;
}
