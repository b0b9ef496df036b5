import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';

/** Tabs of a panel, in words, over what the chosen one shows. */
@Component({
  selector: 'ml-tab-row',
  imports: [MatTabsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav mat-tab-nav-bar mat-stretch-tabs="false" [tabPanel]="panel" [aria-label]="label()">
      @for (each of tabs(); track each.tab) {
        <button mat-tab-link type="button" [active]="tab() === each.tab" (click)="chosen.emit(each.tab)">
          {{ each.name }}
        </button>
      }
    </nav>
    <mat-tab-nav-panel #panel class="panel"><ng-content /></mat-tab-nav-panel>
  `,
  styles: `
    :host {
      display: flex;
      flex: 1;
      flex-direction: column;
      min-height: 0;
    }
    nav {
      flex: none;
      padding: 0 8px;
      border-bottom: 1px solid var(--rule);
    }
    .panel {
      display: flex;
      flex: 1;
      flex-direction: column;
      min-height: 0;
    }
  `,
})
export class TabRow<T extends string> {
  readonly label = input.required<string>();
  readonly tabs = input.required<readonly { tab: T; name: string }[]>();
  readonly tab = input.required<T>();
  readonly chosen = output<T>();
}
