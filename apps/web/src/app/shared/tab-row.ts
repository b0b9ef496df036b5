import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** Tabs of a panel, in words. */
@Component({
  selector: 'ml-tab-row',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (each of tabs(); track each.tab) {
      <button
        type="button"
        role="tab"
        [class.here]="tab() === each.tab"
        [attr.aria-selected]="tab() === each.tab"
        (click)="chosen.emit(each.tab)"
      >
        {{ each.name }}
      </button>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex: none;
      padding: 4px 8px 0;
      border-bottom: 1px solid var(--rule);
      overflow-x: auto;
    }
    button {
      padding: 8px 6px 7px;
      white-space: nowrap;
      border: 0;
      border-bottom: 2px solid transparent;
      background: none;
      color: var(--ink-2);
      font: inherit;
      cursor: pointer;
    }
    .here {
      border-bottom-color: var(--brand);
      color: var(--brand);
      font-weight: 600;
    }
  `,
  host: { role: 'tablist' },
})
export class TabRow<T extends string> {
  readonly tabs = input.required<readonly { tab: T; name: string }[]>();
  readonly tab = input.required<T>();
  readonly chosen = output<T>();
}
