import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { digitsOf, exactFigure, noteOf } from '@margin-lens/core/shown';
import type { TranslationProof } from '@margin-lens/contract';
import { LensStore } from '../lens/lens-store';
import { TracePath } from '../lens/trace-path';
import { GroupApi } from '../shared/group-api';
import { ContextStore } from '../shared/context-store';
import { asAtText } from '../shared/view-context';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { WorkspaceStore } from '../shared/workspace-store';
import { exactText } from './exact-text';

type Entity = TranslationProof['entities'][number];
type Month = Entity['months'][number];

/** The month of an entity whose movement is traced. */
interface Traced {
  entity: string;
  isTemporal: boolean;
  month: string;
  name: string;
  path: readonly string[];
}

/** How the translation reserve of each entity came about, month by month, proved on two ways and traced to postings. */
@Component({
  selector: 'ml-translation-screen',
  imports: [EmptyState, MatButtonModule, MatIconModule, RouterLink, Screen, TracePath],
  providers: [LensStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './translation-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './translation-screen.scss'],
  host: { '(keydown.escape)': 'traced.set(undefined)' },
})
export class TranslationScreen {
  private readonly api = inject(GroupApi);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly lens = inject(LensStore);
  private readonly injector = inject(Injector);
  private readonly path = viewChild(TracePath);

  private readonly question = computed(() => {
    const context = this.contexts.context();
    if (!context) return undefined;
    const { scope, currency, asAt } = context;
    return { scope: scope.code, as_at: asAtText(asAt), ...(currency === scope.currency ? {} : { currency }) };
  });
  private readonly asking = asked(this.question, (question) => this.api.translation(question));
  protected readonly state = this.asking.state;

  protected readonly traced = signal<Traced | undefined>(undefined);
  protected readonly entities = computed(() => this.state().view?.entities.map((entity) => this.shown(entity)));
  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view) return '';
    const off = view.entities.flatMap(({ months }) => months).filter(({ difference }) => difference !== '0').length;
    const proof = off === 0 ? 'both ways agree in every month' : `${off} months do not agree`;
    return `${view.scope.name} · ${view.scope.currency} · the year to ${view.asAt.name}${view.entities.length > 0 ? ` · ${proof}` : ''}`;
  });

  constructor() {
    effect(() => {
      const [traced, context, state] = [this.traced(), this.contexts.context(), this.workspaces.state()];
      if (!traced || !context || state.state !== 'loaded') return;
      const { revision } = state.workspace;
      this.lens.ask({ statement: context.statement, context: this.question()!, revision, path: traced.path });
    });
    // another scope or month has other figures
    effect(() => {
      this.question();
      untracked(() => this.traced.set(undefined));
    });
  }

  protected retry(): void {
    this.asking.again();
  }

  protected trace(entity: Entity, { key, name, address }: Month): void {
    if (address === null) return;
    const { code, isTemporal } = entity;
    this.traced.set({ entity: code, isTemporal, month: key, name: `${entity.name}, ${name}`, path: [address] });
    afterNextRender({ read: () => this.path()?.focusTerms() }, { injector: this.injector });
  }

  protected open(address: string): void {
    this.traced.update((traced) => traced && { ...traced, path: [...traced.path, address] });
  }

  protected goUpTo(level: number): void {
    this.traced.update((traced) => traced && { ...traced, path: traced.path.slice(0, level + 1) });
  }

  private shown(entity: Entity) {
    const { currency } = this.state().view!.scope;
    const text = (exact: string) => exactText(exact, digitsOf(currency));
    const hasOpened = entity.months.some(({ opened }) => opened !== '0');
    return {
      ...entity,
      hasOpened,
      months: entity.months.map((month) => ({
        ...month,
        source: month,
        cells: [
          month.opening,
          ...(hasOpened ? [month.opened] : []),
          month.netAssets,
          month.result,
          ...month.others,
          month.closing,
          month.missing,
        ].map((exact) => ({ text: text(exact), exact })),
        agrees: month.difference === '0',
        differenceText: month.difference === '0' ? '–' : month.difference,
        shownText: month.shown.amount === null ? '?' : exactFigure(month.shown),
        roundingText:
          month.rounding.amount === null ? '?' : month.rounding.amount === 0 ? '–' : exactFigure(month.rounding),
        why: month.shown.amount === null ? noteOf(month.shown) : '',
      })),
    };
  }
}
