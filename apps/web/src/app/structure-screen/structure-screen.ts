import { ChangeDetectionStrategy, Component, computed, inject, signal, type Type } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { CdkDrag, type CdkDragEnd } from '@angular/cdk/drag-drop';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { dayInWords, readablePlain } from '@margin-lens/core/shown';
import type { ShareLineView, ShareView, StructureView } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { SetupApi } from '../shared/setup-api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { WorkspaceStore } from '../shared/workspace-store';
import type { GroupAsked } from './group-dialog';
import type { ShareAsked } from './share-dialog';
import type { TermsAsked } from './terms-asked';
import { percentText } from '../shared/percent-of';
import { BOX, layOut } from './structure-layout';

type Entity = StructureView['entities'][number];

/** How an entity comes into the group, in words. */
const METHOD_WORDS: Record<Entity['method'], string> = {
  top: 'Head of the group',
  full: 'In full',
  proportionate: 'In proportion',
  equity: 'As one line (associate)',
};

/** What was said of a share that was bought or sold. @example 'paid 4,200,000.00, 3 items' */
function termsText({ acquisition, disposal }: ShareLineView): string {
  const items = acquisition?.items.length ?? 0;
  return [
    acquisition?.consideration ? `paid ${readablePlain(acquisition.consideration)}` : '',
    items > 0 ? `${items} ${items === 1 ? 'item' : 'items'}` : '',
    disposal?.proceeds ? `got ${readablePlain(disposal.proceeds)}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** Who holds whom in a group at the end of the month: drawn as a tree, and entity by entity. */
@Component({
  selector: 'ml-structure-screen',
  imports: [CdkDrag, EmptyState, MatButtonModule, MatIconModule, MatMenuModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './structure-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './structure-screen.scss'],
})
export class StructureScreen {
  private readonly api = inject(GroupApi);
  private readonly setup = inject(SetupApi);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);
  private readonly dialogs = inject(MatDialog);
  protected readonly BOX = BOX;

  protected readonly groups = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.groups : undefined;
  });
  /** The group of the address; else that of the scope, or the first. */
  private readonly group = computed(() => {
    const groups = this.groups() ?? [];
    const named = this.contexts.params()['group'] as string | undefined;
    const scope = this.contexts.context()?.scope.code;
    return (
      groups.find(({ code }) => code === named) ??
      groups.find(({ code, topEntity }) => code === scope || topEntity === scope) ??
      groups[0]
    );
  });
  private readonly question = computed(() => {
    const [group, context] = [this.group(), this.contexts.context()];
    return group && context && { code: group.code, as_at: asAtText(context.asAt) };
  });
  private readonly asking = asked(this.question, ({ code, as_at }) => this.api.structure(code, as_at));
  protected readonly state = this.asking.state;
  protected readonly isEmpty = computed(() => this.groups()?.length === 0);

  protected readonly chosen = signal<string | undefined>(undefined);
  protected readonly layout = computed(() => layOut(this.state().view?.entities ?? []));
  protected readonly rows = computed(() =>
    this.state().view?.entities.map((entity) => ({
      ...entity,
      methodText: METHOD_WORDS[entity.method],
      heldBy: entity.holders.map(({ name, percent }) => `${name} ${percentText(percent)}`).join(', '),
      ownersText: percentText(entity.effective),
      othersText: entity.others === 0 ? '–' : percentText(entity.others),
      votesText: entity.method === 'top' ? '' : percentText(entity.votes),
    })),
  );
  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view) return '';
    const of = (method: Entity['method']) => view.entities.filter((entity) => entity.method === method).length;
    const inProportion = of('proportionate');
    return [
      `${view.group.currency} · ${dayInWords(view.day)} · ${1 + of('full')} in full`,
      inProportion > 0 ? `${inProportion} in proportion` : '',
      of('equity') > 0 ? `${of('equity')} as one line` : '',
      view.hidden > 0 ? `${view.hidden} that you may not see` : '',
    ]
      .filter(Boolean)
      .join(', ');
  });

  protected readonly shares = computed(() => {
    const { view } = this.state();
    const nameOf = (code: string) => this.entities().find((entity) => entity.code === code)?.name ?? code;
    return (view?.shares ?? []).map((share) => ({
      share,
      holder: nameOf(share.investor),
      held: nameOf(share.investee),
      day: dayInWords(share.from),
      termsText: termsText(share),
      percentText: Number(share.percent) === 0 ? 'nothing any more' : percentText(Number(share.percent)),
      methodText: METHOD_WORDS[share.method],
      isToCome: share.from > view!.day,
    }));
  });
  private readonly entities = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.entities : [];
  });

  /** Opens a share that is kept, or a new one from the first day of the month that is looked at. */
  protected edit(share: Partial<ShareView>, isKept: boolean): void {
    const [group, context] = [this.group(), this.contexts.context()];
    if (!group || !context) return;
    const data: ShareAsked = {
      ...{ group: group.code, asAt: asAtText(context.asAt), isKept, entities: this.entities() },
      share: { from: context.asAt.start, investor: this.chosen() ?? group.topEntity, ...share },
    };
    void import('./share-dialog').then(({ ShareDialog }) => this.opens(ShareDialog, data, '520px'));
  }

  /** Opens the group that is looked at, or a new one. */
  protected editGroup(isKept: boolean): void {
    const state = this.workspaces.state();
    if (state.state !== 'loaded') return;
    const { entities, groups, calendars } = state.workspace;
    const asked = { isKept, entities, groups, calendars: calendars.map(({ code }) => code) };
    this.setup.setupTable('groups').subscribe(({ columns, rows }) => {
      const kept = rows.map(({ cells }) => Object.fromEntries(columns.map(({ name }, at) => [name, cells[at]!])));
      const group: GroupAsked['group'] = isKept
        ? (kept.find(({ code }) => code === this.group()?.code) ?? {})
        : { currency: this.group()?.currency ?? '' };
      const data: GroupAsked = { ...asked, group };
      void import('./group-dialog').then(({ GroupDialog }) => this.opens(GroupDialog, data, '520px'));
    });
  }

  /** Opens what was paid for a part that was bought, or got for one that was sold. */
  protected tell(share: ShareLineView): void {
    const { view } = this.state();
    if (!view) return;
    const nameOf = (code: string) => this.entities().find((entity) => entity.code === code);
    const [holder, held] = [nameOf(share.investor), nameOf(share.investee)];
    const data: TermsAsked = {
      ...{ share, holder: holder?.name ?? share.investor, held: held?.name ?? share.investee },
      ...{ currency: holder?.currency ?? view.group.currency, ownCurrency: held?.currency ?? '' },
    };
    const isSale = share.change === 'sold';
    const dialog: Promise<Type<unknown>> = isSale
      ? import('./disposal-dialog').then(({ DisposalDialog }) => DisposalDialog)
      : import('./acquisition-dialog').then(({ AcquisitionDialog }) => AcquisitionDialog);
    void dialog.then((made) => this.opens(made, data, isSale ? '520px' : '920px'));
  }

  /** Reads all anew once something was kept. */
  private opens<T>(dialog: Type<unknown>, data: T, width: string): void {
    this.dialogs
      .open<unknown, T, boolean>(dialog, { data, width, maxWidth: '96vw', enterAnimationDuration: 0 })
      .afterClosed()
      .subscribe((isKept) => {
        if (!isKept) return;
        this.workspaces.reload();
        this.asking.again();
      });
  }

  /** An entity that is dragged onto another one is to be held by it. */
  protected dropped({ source, dropPoint }: CdkDragEnd<Entity>): void {
    source.reset();
    const onto = document
      .elementsFromPoint(dropPoint.x, dropPoint.y)
      .map((element) => element.closest<HTMLElement>('[data-entity]')?.dataset['entity'])
      .find((code) => code !== undefined && code !== source.data.code);
    if (onto === undefined) return;
    const held = this.state().view?.shares.findLast(
      (each) => each.investor === onto && each.investee === source.data.code,
    );
    this.edit(
      { investor: onto, investee: source.data.code, percent: held?.percent ?? '100', method: held?.method ?? 'full' },
      false,
    );
  }

  protected retry(): void {
    this.asking.again();
  }

  protected boxText({ method, currency, holders }: Entity): string {
    const held = holders.reduce((sum, { percent }) => sum + percent, 0);
    if (method === 'top') return `${currency} · head`;
    return `${currency} · ${percentText(held)}${method === 'equity' ? ', associate' : ''}`;
  }
}
