import { computed, linkedSignal, signal, type Signal, type WritableSignal } from '@angular/core';
import type { GridCommand } from './grid-keys';
import type { GridActs, GridPlan, GridScreen } from './grid-plan';
import { blockOf, type Block, type Spot } from './grid-place';

/** What is being typed into a cell. */
export interface Typing {
  text: string;
  /** Arrows move in the text. */
  hasCaret: boolean;
  /** All of it is selected: what is typed next takes its place. */
  isSelected: boolean;
  /** Which of the times that something was typed: an input that stays for a moment is of the one before. */
  time: number;
}

/** Columns of a row that are chosen; −1 where none is. */
export interface ChosenInRow {
  /** The block, both ends included. */
  left: number;
  right: number;
  spot: number;
  /** Where the handle to fill from stands. */
  corner: number;
}

const NOTHING: ChosenInRow = { left: 0, right: -1, spot: -1, corner: -1 };

const PAGE = 20;
const BY_PLACE = {
  idOf: ({ row, column }: Spot) => `${row}.${column}`,
  find(id: string): Spot {
    const [row, column] = id.split('.').map(Number) as [number, number];
    return { row, column };
  },
};

/**
 * What is chosen in a grid, and what is typed into it.
 *
 * The spot is the cell that has the keyboard. A block begins there and reaches to another cell, as in spreadsheets: what
 * is typed goes to the spot, what is copied, cleared and filled is the block.
 */
export class GridModel {
  /** Draws the grid; there while it stands on screen. */
  screen: GridScreen | undefined;
  private readonly names: NonNullable<GridPlan['names']>;
  private readonly chosen: WritableSignal<string | undefined>;
  /** The other end of the block. */
  private readonly corner = signal<Spot | undefined>(undefined);
  private readonly filling = signal<Spot | undefined>(undefined);
  private readonly typed = signal<Typing | undefined>(undefined);

  /** What is being typed into the spot; undefined while the keyboard moves about. */
  readonly typing: Signal<Typing | undefined> = this.typed;
  private times = 0;
  readonly spot = computed(() => this.find(this.chosen()), { equal: isSame });
  private readonly lastChosen = linkedSignal<string | undefined, string | undefined>({
    source: () => this.chosen(),
    computation: (chosen, previous) => chosen ?? previous?.value,
  });
  /** The cell that Tab reaches: the chosen one, else the one that was, else the first that can be chosen. */
  readonly entry = computed<Spot>(() => this.find(this.lastChosen()) ?? { row: this.stopFrom(0, 1) ?? 0, column: 0 }, {
    equal: isSame,
  });
  readonly block = computed((): Block | undefined => {
    const spot = this.spot();
    if (!spot) return undefined;
    const corner = this.corner();
    const chosen = blockOf(spot, corner ? this.within(corner) : spot);
    const filling = this.filling();
    const ends = [
      { row: chosen.top, column: chosen.left },
      { row: chosen.bottom, column: chosen.right },
    ] as const;
    return filling ? blockOf(...ends, filling) : chosen;
  });
  readonly isFilling = computed(() => this.filling() !== undefined);

  constructor(
    private readonly plan: GridPlan,
    readonly acts: GridActs = {},
  ) {
    this.names = plan.names ?? BY_PLACE;
    this.chosen = plan.chosen ?? signal<string | undefined>(undefined);
  }

  /** What of a row is chosen, asked once for all its cells. */
  inRow(row: number): ChosenInRow {
    const [spot, block] = [this.spot(), this.block()];
    if (!spot || !block || row < block.top || row > block.bottom) return NOTHING;
    const { left, right } = block;
    return {
      ...{ left, right },
      spot: spot.row === row ? spot.column : -1,
      corner: block.bottom === row ? right : -1,
    };
  }

  /** Whether the keyboard may stop at a row. */
  stops(row: number): boolean {
    return this.plan.stops?.(row) ?? true;
  }

  idOf(spot: Spot): string {
    return this.names.idOf(spot);
  }

  private find(id: string | undefined): Spot | undefined {
    const spot = id === undefined ? undefined : this.names.find(id);
    return spot && this.plan.rows() > 0 && this.plan.columns() > 0 ? this.within(spot) : undefined;
  }

  private within({ row, column }: Spot): Spot {
    return {
      row: Math.max(0, Math.min(row, this.plan.rows() - 1)),
      column: Math.max(0, Math.min(column, this.plan.columns() - 1)),
    };
  }

  /** The first row from here on in a direction that the keyboard stops at. */
  private stopFrom(from: number, way: 1 | -1): number | undefined {
    for (let row = from; row >= 0 && row < this.plan.rows(); row += way) if (this.stops(row)) return row;
    return undefined;
  }

  /** Goes to a cell; extending, the block grows to it. Nothing happens in an empty grid. */
  move(to: Spot, isExtending = false): void {
    if (this.plan.rows() === 0 || this.plan.columns() === 0) return;
    const spot = this.within(to);
    if (isExtending && this.spot()) this.reach(spot);
    else this.choose(spot);
    this.reveal(spot);
    this.screen?.focus();
  }

  /** Scrolls a cell into sight. */
  reveal(spot: Spot): void {
    if (this.plan.reveal) this.plan.reveal(spot);
    else this.screen?.reveal(spot);
  }

  /** Chooses a cell without bringing the keyboard to it. */
  choose(spot: Spot): void {
    this.corner.set(undefined);
    this.chosen.set(this.idOf(spot));
    this.acts.moved?.(spot);
  }

  /** Grows the block from the spot to a cell. */
  reach(to: Spot): void {
    const spot = this.within(to);
    this.corner.set(spot);
    this.acts.reached?.(spot);
  }

  shrink(): void {
    this.corner.set(undefined);
  }

  selectAll(): void {
    this.choose({ row: this.stopFrom(0, 1) ?? 0, column: 0 });
    this.reach({ row: (this.plan.all?.() ?? this.plan.rows()) - 1, column: this.plan.columns() - 1 });
  }

  /** Does what a key asks for; false where it is not for this grid. */
  obey(command: GridCommand): boolean {
    const { acts } = this;
    const [spot, block] = [this.entry(), this.block() ?? blockOf(this.entry())];
    switch (command.do) {
      case 'step':
        return this.step(command);
      case 'page':
        return this.step({
          ...{ rows: command.pages * (this.plan.page?.() ?? PAGE), columns: 0 },
          extends: command.extends,
        });
      case 'go':
        return done(() => this.go(command.row ?? this.cursor().row, command.column, command.extends));
      case 'enter':
      case 'enter_back':
        if (acts.enter) return done(() => acts.enter!(spot));
        return this.step({ rows: command.do === 'enter' ? 1 : -1, columns: 0, extends: false });
      case 'space':
        return done(acts.space && (() => acts.space!(spot)));
      case 'open':
        return done(acts.open && (() => acts.open!(spot, command.opens)));
      case 'widen':
        return done(acts.widen && (() => acts.widen!(spot.column, command.steps)));
      case 'pin':
        return done(acts.pin && (() => acts.pin!(spot.column)));
      case 'select_all':
        return done(() => this.selectAll());
      case 'shrink':
        return this.corner() !== undefined && done(() => this.shrink());
      case 'edit':
        return this.type();
      case 'stop_typing':
        return done(() => this.stopTyping());
      case 'clear':
        return done(acts.clear && (() => acts.clear!(block)));
      case 'undo':
        return done(acts.undo && (() => acts.undo!()));
      case 'redo':
        return done(acts.redo && (() => acts.redo!()));
      case 'fill_right':
        return done(acts.fill && (() => this.fillRight()));
      case 'fill_down':
        return done(acts.fill && (() => this.fillDown()));
      case 'fill_typed':
        return done(() => this.commit(true));
    }
  }

  private cursor(): Spot {
    return this.corner() ?? this.entry();
  }

  private step(step: { rows: number; columns: number; extends: boolean; commits?: true; leaves?: true }): boolean {
    const isNoSheet = !this.acts.write || this.plan.hasNames;
    const from = step.extends ? this.cursor() : this.entry();
    const column = from.column + step.columns;
    if (step.leaves && (isNoSheet || column < 0 || column >= this.plan.columns())) return false;
    if (step.commits) {
      this.commit();
      if (this.plan.hasNames) return done(() => this.screen?.focus());
    }
    if (this.plan.next) return done(() => this.move(this.plan.next!(from, step.rows, step.columns), step.extends));
    this.go(from.row + step.rows, column, step.extends, step.rows < 0 ? -1 : 1);
    return true;
  }

  /** Goes to a cell, or to the next in a direction where the keyboard may stop. */
  private go(row: number, column: number, isExtending: boolean, way: 1 | -1 = 1): void {
    const aim = this.within({ row, column });
    const stop = this.stopFrom(aim.row, way) ?? this.stopFrom(aim.row, way === 1 ? -1 : 1);
    this.move({ row: stop ?? aim.row, column: aim.column }, isExtending);
  }

  /** Opens the spot to be typed into; a text takes the place of what it holds. False where it cannot be written. */
  type(text?: string): boolean {
    const spot = this.entry();
    const held = this.acts.write && this.acts.textOf?.(spot);
    if (held === undefined) return false;
    if (!this.spot()) this.choose(spot);
    const isSelected = text === undefined;
    const hasCaret = isSelected || (this.acts.offers?.(spot) ?? false);
    this.typed.set({ text: text ?? held, hasCaret, isSelected, time: ++this.times });
    return true;
  }

  /** Begins a new text in the spot; false where it is not typed over. */
  typeOver(text: string): boolean {
    return !this.plan.hasNames && this.type(text);
  }

  /** Takes over what the input of the cell holds. */
  retype(text: string): void {
    this.typed.update((now) => now && { ...now, text, isSelected: false });
  }

  /** Takes a letter that comes before the input of the cell has the keyboard. */
  typeAhead(letter: string): void {
    const now = this.typed();
    if (now) this.retype(now.isSelected ? letter : now.text + letter);
  }

  stopTyping(): void {
    this.typed.set(undefined);
    this.screen?.focus();
  }

  /** Writes what is typed into the spot, or into the whole block. */
  commit(intoAll = false): void {
    const [typed, spot, block] = [this.typed(), this.spot(), this.block()];
    if (!typed || !spot || !block) return;
    this.typed.set(undefined);
    this.acts.write?.(typed.text, intoAll ? block : blockOf(spot));
    if (intoAll) this.screen?.focus();
  }

  /** Fills the block from its first column; one column from the one to its left. */
  fillRight(): void {
    const block = this.block();
    if (!block) return;
    const from = block.right > block.left ? block.left : block.left - 1;
    if (from >= 0) this.acts.fill?.({ ...block, left: from, right: from }, block);
  }

  /** Fills the block from its first row; one row from the one above it. */
  fillDown(): void {
    const block = this.block();
    if (!block) return;
    const from = block.bottom > block.top ? block.top : block.top - 1;
    if (from >= 0) this.acts.fill?.({ ...block, top: from, bottom: from }, block);
  }

  /** Whether the pointer grows the block as it is dragged. */
  get growsByPointer(): boolean {
    return !this.plan.hasNames;
  }

  /** The handle at the block's corner is dragged to a cell, first to its own. */
  dragHandle(to?: Spot): void {
    const block = this.block();
    if (block) this.filling.set(to ?? { row: block.bottom, column: block.right });
  }

  /** The handle is let go of: what the block held is repeated over all of it. */
  dropHandle(): void {
    const target = this.block();
    if (!this.filling() || !target) return;
    this.filling.set(undefined);
    this.acts.fill?.(this.block()!, target);
    this.chooseBlock(target);
  }

  private chooseBlock({ top, bottom, left, right }: Block): void {
    this.choose({ row: top, column: left });
    this.reach({ row: bottom, column: right });
  }

  copy(clipboard: DataTransfer): boolean {
    const block = this.block();
    if (!block || !this.acts.copy) return false;
    this.acts.copy(clipboard, block);
    return true;
  }

  cut(clipboard: DataTransfer): boolean {
    const block = this.block();
    if (!block || !this.acts.clear || !this.copy(clipboard)) return false;
    this.acts.clear(block);
    return true;
  }

  paste(clipboard: DataTransfer): boolean {
    const { paste } = this.acts;
    const block = this.block();
    if (!block || !paste) return false;
    const covered = paste(clipboard, block);
    if (covered) this.chooseBlock(covered);
    return true;
  }
}

const isSame = (a: Spot | undefined, b: Spot | undefined) => a?.row === b?.row && a?.column === b?.column;

/** Runs an act, where there is one. */
function done(act: (() => void) | undefined): boolean {
  act?.();
  return act !== undefined;
}
