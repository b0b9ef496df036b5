import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { ContextStore } from './context-store';
import { EmptyState } from './empty-state';
import { scopeOf } from './view-context';
import { WorkspaceStore } from './workspace-store';

/** The entities of the group that is looked at, in place of what each of them has by itself. */
@Component({
  selector: 'ml-entity-choice',
  imports: [EmptyState, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-empty-state heading="Of which entity?" [says]="says()" data-testid="entity-choice">
      <div class="entities">
        @for (entity of entities(); track entity.code) {
          <button matButton="outlined" type="button" (click)="contexts.setScope(entity.code)">
            {{ entity.name }} <span class="currency">{{ entity.currency }}</span>
          </button>
        }
      </div>
    </ml-empty-state>
  `,
  styles: `
    .entities {
      display: flex;
      flex-wrap: wrap;
      gap: var(--gap);
      justify-content: center;
    }
    .currency {
      color: var(--ink-2);
      font-weight: 400;
    }
  `,
})
export class EntityChoice {
  protected readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly group = computed(() => this.contexts.context()?.scope);
  protected readonly says = computed(() => {
    const words = `${this.group()?.name} is a group: each of its entities keeps its own.`;
    return this.entities().length > 0 ? words : `${words} You may see none of them.`;
  });
  /** What stands below the group in the tree of scopes. */
  protected readonly entities = computed(() => {
    const state = this.workspaces.state();
    if (state.state !== 'loaded') return [];
    const { workspace } = state;
    const tree = workspace.scopes;
    const at = tree.findIndex(({ code }) => code === this.group()?.code);
    const behind = tree.slice(at + 1);
    const end = behind.findIndex(({ depth }) => depth <= tree[at]!.depth);
    return behind.slice(0, end < 0 ? undefined : end).flatMap(({ code }) => {
      const scope = scopeOf(workspace, code);
      return scope && !('topEntity' in scope) ? scope : [];
    });
  });
}
