import { computed, inject, Injectable, linkedSignal } from '@angular/core';
import {
  newAxis,
  onlyThese,
  openLevels,
  putAxis,
  swapAxes,
  turnOpen,
  type Breakdown,
  type ChartKind,
} from '@margin-lens/core/shown';
import { ContextStore } from '../shared/context-store';
import { StatementStore } from '../statement/statement-store';

/** A field as a breakdown offers it. */
export interface OfferedField {
  by: string;
  name: string;
  values: number;
  isOfLines: boolean;
  isTime: boolean;
}

/** What is broken down by what, as it stands in the address, else as it is kept. */
@Injectable()
export class BreakdownStore {
  private readonly contexts = inject(ContextStore);
  private readonly statements = inject(StatementStore);

  /** Undefined where a statement is shown. */
  readonly shown = computed(() => this.statements.state().view?.breakdown ?? undefined);
  readonly definition = computed(() => this.shown()?.definition);
  readonly fields = computed((): readonly OfferedField[] => this.shown()?.fields ?? []);
  /** Fields that do not stand on either side. */
  readonly others = computed(() => {
    const { down = [], across = [] } = this.definition() ?? {};
    const standing = new Set([...down, ...across].map(({ by }) => by));
    return this.fields().filter(({ by, values, isOfLines }) => !standing.has(by) && (values > 0 || isOfLines));
  });
  /** Whether it is other than what is kept under its name, or is not kept at all. */
  readonly isChanged = computed(() => this.shown() !== undefined && this.contexts.context()?.breakdown !== undefined);

  /** Ids of rows that were marked together, in the table or in the chart. */
  readonly marked = linkedSignal<Breakdown | undefined, readonly string[]>({
    source: () => this.definition(),
    computation: () => [],
  });

  /** Marks one more of the rows that are marked, or no longer. */
  mark(row: string, marked: readonly string[]): void {
    this.marked.set(marked.includes(row) ? marked.filter((each) => each !== row) : [...marked, row]);
  }

  /** With only some values left, by the ids of their rows; undefined where these are none of one field. */
  only(rows: readonly string[]): Breakdown | undefined {
    const definition = this.definition();
    const branches = (this.statements.state().view?.rows ?? []).filter(({ id, branch }) => branch && rows.includes(id));
    return definition && onlyThese(definition, [...new Set(branches.map(({ branch }) => branch!.key))]);
  }

  nameOf(by: string): string {
    return this.fields().find((field) => field.by === by)?.name ?? by;
  }

  /** Goes to another breakdown of the same; what is selected does not stand there any more. */
  change(next: Breakdown): void {
    this.contexts.setParams({ breakdown: JSON.stringify(next), cell: null, trace: null });
  }

  /** Adds a field as the innermost down the page. */
  add(field: OfferedField): void {
    const definition = this.definition();
    if (definition) this.change(putAxis(definition, newAxis(field), { side: 'down', at: definition.down.length }));
  }

  swap(): void {
    const definition = this.definition();
    if (definition) this.change(swapAxes(definition));
  }

  /** Opens a value that is closed, or closes it; no step that one goes back to. */
  turn(key: string): void {
    const definition = this.definition();
    if (definition) this.look(turnOpen(definition, key));
  }

  /** Opens a level more, or one less. */
  level(step: 1 | -1): void {
    const definition = this.definition();
    if (definition) this.look(openLevels(definition, step));
  }

  /** Shows it as a table, as a chart, or both. */
  show(shows: 'table' | 'chart' | 'both'): void {
    const { shows: _, ...definition } = this.definition() ?? {};
    const next = definition as Breakdown;
    this.look(shows === 'table' ? next : { ...next, shows });
  }

  draw(chart: ChartKind): void {
    const definition = this.definition();
    if (definition) this.look({ ...definition, chart });
  }

  private look(next: Breakdown): void {
    this.contexts.setParams({ breakdown: JSON.stringify(next) }, true);
  }
}
