import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { dayShort, exactFigure } from '@margin-lens/core/shown';
import type { PairDocuments, PairElimination, PairsView } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { groupAsked, type GroupAsked } from '../shared/group-asked';
import { Screen } from '../shared/screen';
import { PairEliminationDialog, type EliminationAsked } from './pair-elimination-dialog';
import { RulesDialog } from './rules-dialog';
import { CountPipe } from '../shared/count-pipe';

type Pair = PairsView['pairs'][number];
type PairDocument = PairDocuments['documents'][number];

const KINDS: Record<Pair['kind'], string> = {
  balances: 'balances',
  income_expense: 'income and expense of the year',
  interest: 'interest of the year',
};
const STATES: Record<Pair['state'], string> = {
  agrees: 'agrees',
  within: 'within tolerance',
  rates: 'of the rates alone',
  by_hand: 'eliminated by hand',
  open: 'to be resolved',
  untold: 'cannot be told',
};
const DOCUMENT_STATES: Record<PairDocument['state'], string> = {
  alone: 'one side alone',
  other_amount: 'another amount',
  other_document: 'another number',
};

/** What entities of a group have with each other, by what they differ, and the documents that do not meet. */
@Component({
  selector: 'ml-pairs-screen',
  imports: [CountPipe, EmptyState, MatButtonModule, MatIconModule, MatMenuModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pairs-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss', './pairs-screen.scss'],
  host: { '(keydown.escape)': 'chosen.set(undefined)' },
})
export class PairsScreen {
  private readonly api = inject(GroupApi);
  private readonly dialogs = inject(MatDialog);

  private readonly question = groupAsked();
  private readonly asking = asked(this.question, ({ group, ...query }) => this.api.pairs(group, query));
  protected readonly state = this.asking.state;
  protected readonly isGroup = computed(() => this.question() !== undefined);

  /** The pair whose documents are looked at. */
  protected readonly chosen = signal<string | undefined>(undefined);
  protected readonly chosenPair = computed(() => this.state().view?.pairs.find(({ id }) => id === this.chosen()));
  private readonly documentsAsked = computed(() => {
    const [question, pair] = [this.question(), this.chosenPair()];
    return question && pair && { ...question, rule: pair.rule, one: pair.one.code, other: pair.other.code };
  });
  private readonly askingDocuments = asked(this.documentsAsked, ({ group, ...query }) =>
    this.api.pairDocuments(group, query),
  );
  protected readonly documents = computed(() => {
    const { view, isLoading, error } = this.askingDocuments.state();
    return {
      isLoading,
      error,
      ...{ meet: view?.meet ?? 0, more: view?.more ?? 0 },
      elimination: view?.elimination,
      lines: view?.documents.map((document) => this.shownDocument(document)),
    };
  });

  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view || !this.isGroup()) return '';
    const open = view.pairs.filter((pair) => isOpen(pair)).length;
    const all = view.pairs.length === 0 ? 'no pairs' : 'all pairs agree within tolerance';
    const words = open === 0 ? all : `${open} of ${view.pairs.length} to be resolved`;
    const hidden = view.hidden > 0 ? [`${view.hidden} of entities that are not yours to see`] : [];
    return [view.scope.name, view.scope.currency, `to ${view.asAt.name}`, words, ...hidden].join(' · ');
  });
  protected readonly pairs = computed(() =>
    this.state().view?.pairs.map((pair) => ({
      id: pair.id,
      name: `${pair.one.name} and ${pair.other.name}`,
      rule: `${pair.rule}, ${KINDS[pair.kind]}`,
      ...{ own: this.money(pair.own), theirs: this.money(pair.theirs), difference: this.money(pair.difference) },
      booking: pair.booking === null ? '' : this.money(pair.booking),
      rate: pair.rate === null ? '' : this.money(pair.rate),
      isOpen: isOpen(pair),
      state: STATES[pair.state],
      left: pair.state === 'open' && pair.byHand ? `${this.money(pair.difference! + pair.byHand)} left` : '',
      untold: pair.untold,
    })),
  );

  protected readonly statements = computed(() => {
    const asking = this.documentsAsked();
    if (!asking) return undefined;
    const { group, ...query } = asking;
    const urlOf = (format: 'xlsx' | 'pdf' | 'csv') => this.api.pairStatementUrl(group, query, format);
    return { xlsx: urlOf('xlsx'), pdf: urlOf('pdf'), csv: urlOf('csv') };
  });

  protected retry(): void {
    this.asking.again();
  }

  /** Rules that lines speak for, to be looked at and kept. */
  protected propose(): void {
    const asked = this.question();
    if (asked)
      this.dialogs
        .open<RulesDialog, GroupAsked, boolean>(RulesDialog, { data: asked, width: '720px' })
        .afterClosed()
        .subscribe((isKept) => isKept && this.asking.again());
  }

  /** Takes what a pair differs by out of the group, once it was looked at. */
  protected eliminate(draft: PairElimination): void {
    const { one, other } = this.chosenPair()!;
    this.dialogs
      .open<PairEliminationDialog, EliminationAsked, boolean>(PairEliminationDialog, {
        data: { draft, entities: [one, other], month: this.state().view!.asAt.name },
        width: '640px',
      })
      .afterClosed()
      .subscribe((isKept) => {
        if (!isKept) return;
        this.asking.again();
        this.askingDocuments.again();
      });
  }

  protected choose(id: string): void {
    this.chosen.update((chosen) => (chosen === id ? undefined : id));
  }

  private money(amount: number | null): string {
    if (amount === null) return 'not known';
    if (amount === 0) return '–';
    const { currency: code, digits } = this.state().view!.scope;
    return exactFigure({ amount, unit: { kind: 'currency', code, digits } });
  }

  private shownDocument({ state, document, otherDocument, date, currency: code, digits, ...rest }: PairDocument) {
    const { own, theirs, text, advice, entry } = rest;
    const money = (amount: number) =>
      amount === 0 ? '–' : exactFigure({ amount, unit: { kind: 'currency', code, digits } });
    return {
      ...{ text, advice, currency: code, day: dayShort(date), state: DOCUMENT_STATES[state] },
      document: otherDocument === '' ? document : `${document}, ${otherDocument}`,
      ...{ own: money(own), theirs: money(theirs) },
      entry: entry && { ...entry, says: `Post in ${entry.entityName} …` },
    };
  }
}

const isOpen = ({ state }: Pair) => state === 'open' || state === 'untold';
