import { computed, effect, inject, Injectable, untracked } from '@angular/core';
import type { ShownUnit } from '@margin-lens/core';
import { readConditions, writeConditions } from '@margin-lens/core/shown';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { LAST_YEAR, type SheetPlace } from './load-sheet';
import { PlanningStore } from './planning-store';
import { VersionActs } from './version-acts';
import { VersionsStore } from './versions-store';

/** The version that the address names, the rows and columns it is planned in, and what stands beside it. */
@Injectable()
export class VersionPlace {
  private readonly versionsStore = inject(VersionsStore);
  private readonly store = inject(PlanningStore);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly acts = inject(VersionActs);

  readonly code = computed(() => decodeURIComponent(this.contexts.path().split('/')[2] ?? ''));
  readonly versions = computed(() => this.versionsStore.answer().view ?? []);
  /** Figures of a group are looked at; they are planned in its entities. */
  readonly isGroup = computed(() => {
    const scope = this.contexts.context()?.scope.code;
    return this.workspace()?.groups.some(({ code }) => code === scope) ?? false;
  });
  readonly version = computed(() => {
    const version = this.versions().find(({ code }) => code === this.code());
    return version && this.isGroup() ? { ...version, mayEdit: false } : version;
  });
  readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  /** Row layouts that can be planned by: those of the statements, each once. */
  readonly layouts = computed(() => {
    const makings = this.store.makings();
    const used = new Set(this.workspace()?.statements.map(({ rows }) => rows));
    return (makings?.rowLayouts ?? []).filter(({ id }) => used.has(id));
  });
  readonly rows = computed(() => {
    const asked = this.contexts.params()['rows'] as string | undefined;
    const workspace = this.workspace();
    const usual =
      workspace?.statements.find(({ id }) => id === workspace.defaults.statement) ?? workspace?.statements[0];
    return asked ?? usual?.rows ?? '';
  });
  readonly grain = computed(() => (this.contexts.params()['grain'] === 'quarter' ? 'quarter' : 'month'));
  readonly by = computed(() => (this.contexts.params()['by'] as string | undefined)?.split(',').filter(Boolean) ?? []);
  readonly withCodes = computed(
    () =>
      (this.contexts.params()['with'] as string | undefined)
        ?.split(',')
        .filter((code) => code && code !== this.code()) ?? [],
  );
  readonly valuesFirst = computed(() => this.contexts.params()['first'] === 'values');
  /** Demands on dimension values that the filter makes; all of them must be met. */
  readonly part = computed(() => readConditions(this.contexts.context()?.where.join(',')), {
    equal: (a, b) => writeConditions(a) === writeConditions(b),
  });
  /** What the sheet is of, as the server is asked. */
  readonly sheetPart = computed(() => ({
    scope: this.contexts.context()?.scope.code ?? '',
    ...(this.part().length > 0 && { where: writeConditions(this.part()) }),
  }));
  readonly comparesBelow = computed(() => this.contexts.params()['below'] === 'yes');
  readonly dimensions = computed(() => this.workspace()?.dimensions ?? []);
  readonly others = computed(() => this.versions().filter(({ code }) => code !== this.code()));

  constructor() {
    effect(() => {
      const versions = this.versions();
      if (versions.length > 0 && this.code() === '') {
        const best = versions.find(({ state }) => state === 'draft') ?? versions.at(-1)!;
        untracked(() => this.acts.go(best.code, true));
      }
    });
    let askedFor = '';
    effect(() => {
      // one that is not in the list may have come since, such as one that was just brought back
      const [versions, code] = [this.versions(), this.code()];
      if (versions.length === 0 || code === '' || askedFor === code || versions.some((each) => each.code === code))
        return;
      askedFor = code;
      untracked(() => this.versionsStore.reload());
    });
    effect(() => {
      const [version, context, rows, workspace] = [
        this.version(),
        this.contexts.context(),
        this.rows(),
        this.workspace(),
      ];
      if (!version || !context || rows === '' || !workspace) return;
      const comparisons = this.withCodes().flatMap((code) => {
        if (code === LAST_YEAR) return [{ code, name: 'Last year', kind: 'actual' }];
        const other = this.versions().find((each) => each.code === code);
        return other ? [{ code, name: other.name, kind: other.kind }] : [];
      });
      const place = {
        version,
        scope: context.scope,
        calendar: context.scope.calendar,
        periods: context.periods,
        rows,
        where: this.isGroup() ? writeConditions(this.part()) : '',
        comparisons,
        versions: this.versions(),
      };
      untracked(() => {
        const shown = this.store.place();
        const isOther = !shown || keyOf(shown) !== keyOf(place);
        const byOthers =
          shown !== undefined &&
          version.changes > shown.version.changes + this.store.saves() &&
          this.store.unsaved() === 0;
        if (isOther || byOthers) this.store.show(place);
      });
    });
    effect(() => {
      this.store.grain.set(this.grain());
      this.store.dimensions.set(this.by());
      this.store.valuesFirst.set(this.valuesFirst());
      this.store.part.set(this.isGroup() ? [] : this.part());
      this.store.comparesBelow.set(this.comparesBelow());
      this.store.unit.set(this.contexts.context()?.unit ?? (1 as ShownUnit));
    });
  }

  set(params: Record<string, string | null>): void {
    this.contexts.setParams(params);
  }

  toggleWith(code: string): void {
    const now = this.withCodes();
    const next = now.includes(code) ? now.filter((each) => each !== code) : [...now, code];
    this.set({ with: next.join(',') || null });
  }

  toggleBy(dimension: string): void {
    const now = this.by();
    const next = now.includes(dimension) ? now.filter((each) => each !== dimension) : [...now, dimension];
    this.set({ by: next.join(',') || null });
  }
}

/** What a sheet is read anew for. */
const keyOf = ({ version, scope, rows, where, comparisons }: SheetPlace): string =>
  JSON.stringify([version.code, version.state, version.mayEdit, scope.code, rows, where, comparisons]);
