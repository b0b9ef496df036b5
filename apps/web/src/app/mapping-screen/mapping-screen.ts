import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { RouterLink } from '@angular/router';
import { dayShort, inWords } from '@margin-lens/core/shown';
import type { LocalCodeView, MappingView } from '@margin-lens/contract';
import { amountText } from '../ledger-screen/ledger-text';
import { GroupApi } from '../shared/group-api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { WorkspaceStore } from '../shared/workspace-store';
import type { CodeAsked } from './map-dialog';
import { CountPipe } from '../shared/count-pipe';

type Entity = MappingView['entities'][number];

/** Codes of an entity that are shown at once; all that are not mapped are. */
const SHOWN = 30;

/** Accounts and values of entities that keep their books in their own, with what stands for them and what is not mapped. */
@Component({
  selector: 'ml-mapping-screen',
  imports: [CountPipe, EmptyState, MatButtonModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './mapping-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss', './mapping-screen.scss'],
})
export class MappingScreen {
  private readonly api = inject(GroupApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly contexts = inject(ContextStore);
  private readonly dialogs = inject(MatDialog);

  private readonly question = computed(() => {
    const context = this.contexts.context();
    return context && { scope: context.scope.code, as_at: asAtText(context.asAt) };
  });
  private readonly asking = asked(this.question, (question) => this.api.mapping(question));
  protected readonly state = this.asking.state;

  private readonly open = signal<ReadonlySet<string>>(new Set());
  protected readonly entities = computed(() =>
    this.state()
      .view?.entities.filter(({ hasMap, codes }) => hasMap || codes.length > 0)
      .map((entity) => this.shown(entity)),
  );
  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view) return '';
    const missing = view.entities.flatMap(({ codes }) => codes).filter(({ to }) => to === null).length;
    const open = missing === 0 ? 'all that was posted is mapped' : `${missing} not mapped yet`;
    return `${view.scope.name} · to ${view.asAt.name} · ${open}`;
  });

  protected retry(): void {
    this.asking.again();
  }

  protected showAll(entity: string): void {
    this.open.update((open) => new Set([...open, entity]));
  }

  protected map({ code: entity, name }: Pick<Entity, 'code' | 'name'>, code: LocalCodeView): void {
    const targets = this.state().view!.targets.filter(({ dimension }) => dimension === code.dimension);
    const data: CodeAsked = { entity, entityName: name, code, targets };
    void import('./map-dialog').then(({ MapDialog }) =>
      this.dialogs
        .open<unknown, CodeAsked, boolean>(MapDialog, { data, width: '480px', enterAnimationDuration: 0 })
        .afterClosed()
        .subscribe((isKept) => {
          if (!isKept) return;
          this.workspaces.reload();
          this.asking.again();
        }),
    );
  }

  private shown({ code, name, currency, codes }: Entity) {
    const missing = codes.filter(({ to }) => to === null).length;
    const count = this.open().has(code) ? codes.length : Math.max(missing, SHOWN);
    return {
      ...{ code, name, currency, more: Math.max(0, codes.length - count) },
      words: codes.length === 0 ? 'nothing posted yet' : `${codes.length} of its own`,
      codes: codes.slice(0, count).map((each) => ({
        ...each,
        key: [each.dimension, each.code, each.to?.code].join('|'),
        dimensionText: inWords(each.dimension),
        days: each.first === each.last ? dayShort(each.first) : `${dayShort(each.first)} – ${dayShort(each.last)}`,
        debitText: amountText(each.debit, currency),
        creditText: amountText(each.credit, currency),
      })),
    };
  }
}
