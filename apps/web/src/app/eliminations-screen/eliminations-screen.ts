import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import { ELIMINATION_REASON_WORDS, ELIMINATION_WORDS, exactFigure } from '@margin-lens/core/shown';
import type { EliminationsView, GroupTotalsView } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { groupAsked } from '../shared/group-asked';
import { Screen } from '../shared/screen';

type Journal = EliminationsView['journals'][number];

/** What an elimination can do, in the order of the columns. */
const TOTALS = ['result', 'resultOfOthers', 'assets', 'liabilities', 'others', 'owners'] as const;
const HEADS: Record<(typeof TOTALS)[number], string> = {
  result: 'Result of the year',
  resultOfOthers: 'of which others',
  assets: 'Assets',
  liabilities: 'Liabilities',
  others: 'Non-controlling interests',
  owners: 'Equity of the owners',
};

/** The eliminations of a group: what each does, its lines, and what the group would be without one. */
@Component({
  selector: 'ml-eliminations-screen',
  imports: [EmptyState, MatButtonModule, MatCheckboxModule, MatIconModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './eliminations-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss', './eliminations-screen.scss'],
})
export class EliminationsScreen {
  private readonly api = inject(GroupApi);

  protected readonly heads = TOTALS.map((total) => HEADS[total]);
  private readonly question = groupAsked();
  private readonly asking = asked(this.question, ({ group, ...query }) => this.api.eliminations(group, query));
  protected readonly state = this.asking.state;
  protected readonly isGroup = computed(() => this.question() !== undefined);

  private readonly opened = signal<ReadonlySet<string>>(new Set());
  /** Eliminations that are left out for once. */
  private readonly off = signal<ReadonlySet<string>>(new Set());

  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view || !this.isGroup()) return '';
    const { journals, hidden } = view;
    const count = journals.length === 1 ? 'one elimination' : `${journals.length} eliminations`;
    return [
      ...[view.scope.name, view.scope.currency, `to ${view.asAt.name}`, count],
      ...(hidden > 0 ? [`${hidden} of entities that are not yours to see`] : []),
      ...(this.off().size > 0 ? [`${this.off().size} switched off here; the books stay as they are`] : []),
    ].join(' · ');
  });
  protected readonly kinds = computed(() => {
    const journals = this.state().view?.journals ?? [];
    return [...new Set(journals.map(({ kind }) => kind))].map((kind) => ({
      kind,
      name: ELIMINATION_WORDS[kind],
      journals: journals.filter((journal) => journal.kind === kind).map((journal) => this.shown(journal)),
    }));
  });
  protected readonly feet = computed(() => {
    const { view } = this.state();
    if (!view) return [];
    const on = view.journals.filter(({ id }) => !this.off().has(id)).map(({ does }) => does);
    const sum = addedUp(on);
    return [
      { name: 'Sum of the entities', isGroup: false, cells: this.cells(view.before) },
      { name: 'Eliminations', isGroup: false, cells: this.cells(sum) },
      { name: view.scope.name, isGroup: true, cells: this.cells(addedUp([view.before, sum])) },
    ];
  });

  constructor() {
    // what was left out of one group says nothing of another
    effect(() => {
      this.question();
      untracked(() => this.off.set(new Set()));
    });
  }

  protected retry(): void {
    this.asking.again();
  }

  protected toggle(id: string): void {
    this.opened.update((opened) => withOrWithout(opened, id));
  }

  protected switch(id: string): void {
    this.off.update((off) => withOrWithout(off, id));
  }

  private shown(journal: Journal) {
    const { id, of, rule, text, does, untold, lines } = journal;
    return {
      id,
      name: rule === '' ? of.join(' and ') : `${rule}: ${of.join(' and ')}`,
      ...{ text, untold },
      isOn: !this.off().has(id),
      isOpen: this.opened().has(id),
      cells: this.cells(does),
      lines: lines.map(({ account, entity, partner, reason, movement, closing }) => ({
        ...{ account: `${account.number} ${account.name}`, entity: entity || 'the group', partner },
        why: ELIMINATION_REASON_WORDS[reason],
        ...{ movement: this.money(movement), closing: this.money(closing) },
      })),
    };
  }

  private cells(totals: GroupTotalsView): string[] {
    return TOTALS.map((total) => this.money(totals[total]));
  }

  private money(amount: number | null): string {
    if (amount === null) return 'not known';
    if (amount === 0) return '–';
    const { currency: code, digits } = this.state().view!.scope;
    return exactFigure({ amount, unit: { kind: 'currency', code, digits } });
  }
}

const addedUp = (all: readonly GroupTotalsView[]): GroupTotalsView =>
  Object.fromEntries(
    TOTALS.map((total) => [
      total,
      all.reduce<number | null>((sum, { [total]: each }) => (sum === null || each === null ? null : sum + each), 0),
    ]),
  ) as unknown as GroupTotalsView;

function withOrWithout(all: ReadonlySet<string>, one: string): ReadonlySet<string> {
  const changed = new Set(all);
  if (!changed.delete(one)) changed.add(one);
  return changed;
}
