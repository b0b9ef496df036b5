import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { SETUP_TABS } from './setup-tabs';

/** The parts of the setup as tabs, over the one that is open. */
@Component({
  selector: 'ml-setup-screen',
  imports: [MatTabsModule, RouterLink, RouterLinkActive, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav mat-tab-nav-bar mat-stretch-tabs="false" [tabPanel]="panel" aria-label="Parts of the setup">
      @for (tab of TABS; track tab.path) {
        <a
          mat-tab-link
          [routerLink]="['/setup', tab.path]"
          queryParamsHandling="merge"
          routerLinkActive
          #link="routerLinkActive"
          [active]="link.isActive"
          >{{ tab.label }}</a
        >
      }
    </nav>
    <mat-tab-nav-panel #panel class="panel"><router-outlet /></mat-tab-nav-panel>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 0;
    }
    nav {
      flex: none;
      padding: 0 7px;
      border-bottom: 1px solid var(--rule);
    }
    .panel {
      display: flex;
      flex: 1;
      min-width: 0;
      min-height: 0;
    }
    .panel > ::ng-deep router-outlet + * {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class SetupScreen {
  protected readonly TABS = SETUP_TABS;
}
