import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { FindingsView } from '@margin-lens/contract';
import { CountPipe } from '../shared/count-pipe';
import { causesOf } from './finding-causes';

/** Findings of a delivery, errors first, one line a cause: where, how often, what is wrong and how to mend it. */
@Component({
  selector: 'ml-findings-table',
  imports: [CountPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (causes().length > 0) {
      <div class="scroll" tabindex="0" role="region" aria-label="Findings">
        <table>
          <thead>
            <tr>
              <th scope="col">File</th>
              <th scope="col" class="number">Lines</th>
              <th scope="col">Column</th>
              <th scope="col">
                {{ findings().errors > 0 ? 'What is wrong, and how to mend it' : 'What was noticed' }}
              </th>
              <th scope="col" class="number">Times</th>
            </tr>
          </thead>
          <tbody>
            @for (cause of causes(); track $index) {
              <tr>
                <td>{{ cause.first.file }}</td>
                <td class="number">{{ cause.lines.join(', ') }}{{ cause.count > cause.lines.length ? '…' : '' }}</td>
                <td>{{ cause.first.column }}</td>
                <td>
                  @if (cause.first.severity === 'notice') {
                    <span class="notice">Notice:</span>
                  }
                  {{ cause.first.message }}
                  @if (cause.isAlike) {
                    {{ cause.count - 1 | count }} more are like it.
                  }
                  <span class="hint">{{ cause.first.hint }}</span>
                </td>
                <td class="number">{{ cause.count | count }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
      @if (untold().length > 0) {
        <p>Besides these:</p>
        <ul>
          @for (kind of untold(); track kind.code) {
            <li>
              <strong>{{ kind.count | count }}</strong> × {{ kind.message }}
            </li>
          }
        </ul>
      }
    }
  `,
  styles: `
    .scroll {
      max-height: 320px;
      margin-top: 8px;
      overflow: auto;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th,
    td {
      padding: 3px 12px 3px 0;
      border-bottom: 1px solid var(--rule);
      text-align: left;
      vertical-align: top;
    }
    thead th {
      position: sticky;
      top: 0;
      border-bottom-color: var(--ink);
      background: var(--sheet);
      color: var(--ink-2);
      font-size: var(--small);
    }
    .number {
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
    .hint {
      color: var(--ink-2);
    }
    .notice {
      color: var(--brass-ink);
      font-weight: 600;
    }
  `,
})
export class FindingsTable {
  readonly findings = input.required<FindingsView>();
  protected readonly causes = computed(() => causesOf(this.findings()));
  /** Kinds of which there are more than the causes tell. */
  protected readonly untold = computed(() =>
    this.findings()
      .countByCode.map(({ code, count, message }) => {
        const told = this.causes().filter(({ first }) => first.code === code);
        return { code, message, count: count - told.reduce((sum, cause) => sum + cause.count, 0) };
      })
      .filter(({ count }) => count > 0),
  );
}
