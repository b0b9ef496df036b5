import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** What stands where nothing is to be shown: that it is so, why or what to do, and the way on. */
@Component({
  selector: 'ml-empty-state',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ heading() }}</h2>
    <p>{{ says() }}</p>
    <ng-content />
  `,
  styles: `
    :host {
      display: block;
      max-width: 480px;
      margin: 14vh auto 0;
      padding: 0 20px;
      text-align: center;
    }
    h2 {
      font: 600 var(--title) / 1.2 var(--serif);
    }
    p {
      margin: 8px 0 16px;
      color: var(--ink-2);
    }
  `,
})
export class EmptyState {
  readonly heading = input.required<string>();
  readonly says = input.required<string>();
}
