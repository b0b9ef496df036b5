import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonModule } from '@angular/material/button';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { BASIS_WORDS, type ShownUnit } from '@margin-lens/core/shown';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { SETUP_TABS } from '../setup-screen/setup-tabs';
import { ContextStore } from '../shared/context-store';
import { NEW_STATEMENT, scopeOf } from '../shared/view-context';
import { placeOf, placesFor } from './places';
import { RouterLink } from '@angular/router';
import { ShownStatement } from '../shared/shown-statement';
import type { TieOut } from '../shared/tie-outs';
import { TieOutsStore } from '../shared/tie-outs-store';
import { BASIS_CHOICES } from '../shared/choice-lists';
import { demandWords } from '../shared/demand-words';
import { WorkspaceStore } from '../shared/workspace-store';
import { InWordsPipe } from '../shared/in-words-pipe';

export const UNIT_CHOICES: readonly { unit: ShownUnit; label: string }[] = [
  { unit: 1, label: 'units' },
  { unit: 1000, label: 'thousand' },
  { unit: 1_000_000, label: 'million' },
];

/** Pages of the places that are not documents. */
const PAGES: Record<string, readonly Page[]> = {
  '/deliveries': [
    { name: 'Bring in', path: '/deliveries' },
    { name: 'Compare', path: '/deliveries/compare' },
  ],
  '/ledger': [
    { name: 'Trial balance', path: '/ledger' },
    { name: 'Lines', path: '/ledger/lines' },
    { name: 'Completeness', path: '/ledger/completeness' },
    { name: 'Missing values', path: '/ledger/missing-values' },
  ],
  '/setup': SETUP_TABS.map(({ path, label }) => ({ name: label, path: `/setup/${path}` })),
};

/** Pixels that a level of the tree of scopes is set in. */
const INDENT = 16; // 8 to 24

interface Page {
  name: string;
  path: string;
}

/** Word mark, where I am, the context pills, the light, find-or-do, person. */
@Component({
  selector: 'ml-top-bar',
  imports: [InWordsPipe, MatButtonModule, MatDividerModule, MatIconModule, MatMenuModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './top-bar.html',
  styleUrl: './top-bar.scss',
  host: { '[class.crowded]': '!!compared()' },
})
export class TopBar {
  protected readonly BASIS_CHOICES = BASIS_CHOICES;
  readonly find = output();
  readonly keys = output();
  /** How numbers and days are written is asked for. */
  readonly style = output();

  private readonly workspaces = inject(WorkspaceStore);
  private readonly shown = inject(ShownStatement);
  private readonly tieOutsStore = inject(TieOutsStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly units = UNIT_CHOICES;

  protected readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  /** Parameters that no other place or statement shares. */
  protected readonly LEFT_BEHIND = { ...NO_LINES, ...NEW_STATEMENT };
  protected readonly place = computed(() => placeOf(this.contexts.path()));
  protected readonly siblings = computed(() =>
    placesFor(this.workspaces.hasBooks()).filter(({ group }) => group === this.place()?.group),
  );
  /** What stands beside each other in this place: statements, versions, or pages of their own. */
  protected readonly pagesHere = computed((): readonly Page[] => {
    const place = this.place()?.path ?? '';
    if (place === '/statements')
      return (this.workspace()?.statements ?? []).map(({ id, name }) => ({ name, path: `/statements/${id}` }));
    if (place === '/packs')
      return (this.workspace()?.packs ?? []).map(({ id, name }) => ({ name, path: `/packs/${id}` }));
    if (place === '/breakdowns')
      return (this.workspace()?.breakdowns ?? []).map(({ id, name }) => ({ name, path: `/breakdowns/${id}` }));
    if (place === '/versions')
      return (this.workspace()?.versions ?? []).map(({ code, name }) => ({ name, path: `/versions/${code}` }));
    return PAGES[place] ?? [];
  });
  /** The page that is open, or that what is open belongs to. */
  protected readonly here = computed(() => {
    const at = this.contexts.path();
    const above = this.pagesHere().filter(({ path }) => at === path || at.startsWith(`${path}/`));
    return above.sort((a, b) => b.path.length - a.path.length)[0]?.name;
  });
  protected readonly isStatement = this.contexts.showsFigures;
  /** Whether figures are read, in a version and by filters. */
  protected readonly isRead = computed(() => this.isStatement() || this.contexts.showsPack());
  protected readonly isPlan = computed(() => /^\/(versions|exceptions)/.test(this.contexts.path()));
  /** Whether what is shown can be narrowed to some values: figures that readers may narrow, and planning sheets. */
  protected readonly isFiltered = computed(() =>
    this.isRead() ? this.contexts.context()?.may.dimensions === true : this.contexts.path().startsWith('/versions/'),
  );
  protected readonly hasScope = computed(
    () =>
      this.isRead() ||
      this.isPlan() ||
      /^\/(rates|translation|readiness|eliminations|between-entities|mapping|ledger|books-check|tie-outs|adjustments|deliveries\/compare|allocations|setup\/accounts|evidence|month-end)/.test(
        this.contexts.path(),
      ),
  );
  /** Groups and entities as a tree. */
  protected readonly scopeTree = computed(() => {
    const workspace = this.workspace();
    return (workspace?.scopes ?? []).flatMap(({ code, depth }) => {
      const scope = scopeOf(workspace!, code);
      return scope ? { ...scope, isGroup: 'topEntity' in scope, indent: depth * INDENT } : [];
    });
  });
  protected readonly versionName = computed(() => {
    const code = this.contexts.context()?.version;
    const name = this.workspace()?.versions.find((version) => version.code === code)?.name ?? code ?? 'Actual';
    const basis = this.contexts.context()?.basis ?? 'reported';
    return basis === 'reported' ? name : `${name}, ${BASIS_WORDS[basis]}`;
  });
  /** What columns compare with: as the statement read it, of a pack as the address says. */
  protected readonly compared = computed(() => {
    if (!this.contexts.showsPack()) return this.shown.view()?.compared;
    const against = this.contexts.context()?.against;
    const { versions = [] } = this.workspace() ?? {};
    return versions.length === 0
      ? undefined
      : (versions.find(({ code }) => code === against) ?? { name: 'newest plan' });
  });
  /** Demands on dimension values in words. */
  protected readonly onlyWords = computed(() =>
    demandWords(this.contexts.context()?.where ?? [], this.workspace()?.dimensions ?? []),
  );
  protected readonly allocation = computed(() =>
    this.workspace()?.allocations.find(({ id }) => id === this.contexts.allocation()),
  );
  protected readonly filterWords = computed(() => {
    const ofFigures = [this.allocation()?.name, this.contexts.organised() ? 'values as they were' : ''];
    return [this.onlyWords(), ...(this.isRead() ? ofFigures : [])].filter(Boolean).join(', ') || 'none';
  });
  protected readonly unitLabel = computed(() => {
    const context = this.contexts.context();
    if (this.contexts.showsPack()) return context?.currency;
    const label = UNIT_CHOICES.find((choice) => choice.unit === context?.unit)!.label;
    const currency = this.isStatement() ? context?.currency : context?.scope.currency;
    return context?.unit === 1 ? currency : `${currency} ${label}`;
  });
  protected readonly tieOuts = computed(() => (this.hasScope() ? this.tieOutsStore.checks() : undefined));
  protected readonly hasPostings = computed(() => (this.contexts.context()?.postedMonths ?? 0) > 0);
  protected readonly agreeing = computed(() => this.tieOuts()?.filter((check) => check.agrees).length ?? 0);
  /** Goes to where the cause can be seen. */
  protected show({ cell, path }: TieOut): void {
    if (path) this.contexts.goTo(path, NO_LINES);
    else if (cell) this.contexts.select(cell);
  }

  protected readonly initials = computed(() =>
    (this.workspace()?.viewer ?? '')
      .split(/\s+/)
      .map((word) => word[0] ?? '')
      .slice(0, 2)
      .join('')
      .toUpperCase(),
  );
}
