import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { Readiness } from '@margin-lens/contract';
import { GroupApi } from '../shared/group-api';
import { asked } from '../shared/asked';
import { EmptyState } from '../shared/empty-state';
import { groupAsked } from '../shared/group-asked';
import { Screen } from '../shared/screen';

type Step = Readiness['entities'][number]['steps'][number];
type Finding = Readiness['findings'][number];

const HEADS: Record<Step['step'], string> = {
  delivered: 'Delivered',
  checked: 'Checked',
  matched: 'Agrees with the others',
  translated: 'Translated',
  in_group: 'In the group',
};
const MARKS: Record<Step['state'], string> = { done: '✓', open: '!', none: '' };

/** Where each kind of finding is mended, and what leads there. */
const PLACES: Record<Finding['kind'], { path: string; says: string }> = {
  delivery: { path: '/deliveries', says: 'Deliveries' },
  owners: { path: '/structure', says: 'Structure' },
  rates: { path: '/rates', says: 'Rates' },
  partners: { path: '/ledger', says: 'Ledger' },
  pairs: { path: '/between-entities', says: 'Between entities' },
  stock: { path: '/setup/stock-held', says: 'Stock held' },
  eliminations: { path: '/eliminations', says: 'Eliminations' },
  books: { path: '/books-check', says: 'Books check' },
};

/** How far a group is: its entities step by step, and what stands in the way of its figures. */
@Component({
  selector: 'ml-readiness-screen',
  imports: [EmptyState, MatButtonModule, RouterLink, Screen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './readiness-screen.html',
  styleUrls: ['../shared/screen-frame.scss', '../shared/listing.scss', './readiness-screen.scss'],
})
export class ReadinessScreen {
  private readonly api = inject(GroupApi);

  private readonly question = groupAsked();
  private readonly asking = asked(this.question, ({ group, ...query }) => this.api.readiness(group, query));
  protected readonly state = this.asking.state;
  protected readonly isGroup = computed(() => this.question() !== undefined);

  protected readonly heads = Object.values(HEADS);
  protected readonly says = computed(() => {
    const { view } = this.state();
    if (!view || !this.isGroup()) return '';
    const { length } = view.findings;
    const words = length === 0 ? 'nothing stands in the way' : `${length} to look at`;
    const hidden = view.hidden > 0 ? [`${view.hidden} entities that are not yours to see`] : [];
    return [view.scope.name, view.asAt.name, words, ...hidden].join(' · ');
  });
  protected readonly entities = computed(() =>
    this.state().view?.entities.map(({ code, name, steps }) => ({
      ...{ code, name },
      steps: steps.map(({ step, state, says }) => ({ step, says, mark: MARKS[state], isOpen: state === 'open' })),
    })),
  );
  protected readonly findings = computed(() =>
    (this.state().view?.findings ?? []).map(({ kind, says, scope }) => ({ says, scope, place: PLACES[kind] })),
  );

  protected retry(): void {
    this.asking.again();
  }
}
