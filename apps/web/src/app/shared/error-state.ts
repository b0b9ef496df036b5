import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Failure } from './server-calls';

/** What went wrong and what to do, in place of a screen that could not be read. */
@Component({
  selector: 'ml-error-state',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="state" role="alert" data-testid="error">
      <h1>{{ error().message }}</h1>
      <p>{{ error().hint }}</p>
      @if (!error().isRefused) {
        <button matButton="filled" type="button" (click)="retry.emit()">Try again</button>
      }
    </div>
  `,
  styles: `
    .state {
      margin: 14vh auto 0;
      max-width: 480px;
      padding: 0 20px;
      text-align: center;
    }
    p {
      margin: 8px 0 16px;
      color: var(--ink-2);
    }
  `,
})
export class ErrorState {
  readonly error = input.required<Failure>();
  readonly retry = output();
}
