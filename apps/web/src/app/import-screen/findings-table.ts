import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { FindingsView } from '@margin-lens/contract';
import { CountPipe } from '../shared/count-pipe';

/** Findings of a delivery: counted by kind, then each with its place, what is wrong and how to mend it. */
@Component({
  selector: 'ml-findings-table',
  imports: [CountPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (findings().shown.length > 0) {
      @if (uncounted() > 0) {
        <p>{{ findings().shown.length | count }} are shown, {{ uncounted() | count }} more are counted below.</p>
        <ul>
          @for (kind of findings().countByCode; track kind.code) {
            <li>
              <strong>{{ kind.count | count }}</strong> × {{ kind.message }}
              <code>{{ kind.code }}</code>
            </li>
          }
        </ul>
      }
      <div class="scroll" tabindex="0" role="region" aria-label="Findings">
        <table>
          <thead>
            <tr>
              <th scope="col">File</th>
              <th scope="col" class="number">Line</th>
              <th scope="col">Column</th>
              <th scope="col">
                {{ findings().errors > 0 ? 'What is wrong, and how to mend it' : 'What was noticed' }}
              </th>
            </tr>
          </thead>
          <tbody>
            @for (issue of findings().shown; track $index) {
              <tr>
                <td>{{ issue.file }}</td>
                <td class="number">{{ issue.line }}</td>
                <td>{{ issue.column }}</td>
                <td>
                  @if (issue.severity === 'notice') {
                    <span class="notice">Notice:</span>
                  }
                  {{ issue.message }} <span class="hint">{{ issue.hint }}</span>
                </td>
              </tr>
            }
          </tbody>
        </table>
      </div>
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
  protected readonly uncounted = computed(
    () => this.findings().countByCode.reduce((sum, { count }) => sum + count, 0) - this.findings().shown.length,
  );
}
