import { linkedSignal } from '@angular/core';

/** What a person made of a column: its width, and whether it stays in sight. */
interface ColumnSize {
  px?: number;
  isPinned?: boolean;
}

/** Narrowest a column is made, in pixels. */
const LEAST_PX = 40; // 24 to 80
/** What a key makes a column wider by, in pixels. */
const STEP_PX = 8; // 4 to 20

/** Widths and pins of the columns of a grid, kept by the browser under the grid's name. */
export class ColumnSizes {
  private readonly sizes = linkedSignal(() => read(this.key()));

  constructor(private readonly name: () => string) {}

  private key(): string {
    return `margin-lens.columns.${this.name()}`;
  }

  /** The width that was asked for, in pixels; undefined leaves a column its own. */
  px(column: string): number | undefined {
    return this.sizes()[column]?.px;
  }

  isPinned(column: string, isUsually = false): boolean {
    return this.sizes()[column]?.isPinned ?? isUsually;
  }

  resize(column: string, px: number): void {
    this.change(column, { px: Math.max(LEAST_PX, Math.round(px)) });
  }

  /** One step wider or narrower than it stands there. */
  widen(column: string, px: number, steps: 1 | -1): void {
    this.resize(column, px + steps * STEP_PX);
  }

  /** Gives a column its own width again. */
  reset(column: string): void {
    this.change(column, { px: undefined });
  }

  togglePin(column: string, isUsually = false): void {
    this.change(column, { isPinned: !this.isPinned(column, isUsually) });
  }

  private change(column: string, change: { [K in keyof ColumnSize]: ColumnSize[K] | undefined }): void {
    const changed = Object.entries({ ...this.sizes()[column], ...change }).filter(([, value]) => value !== undefined);
    const sizes = { ...this.sizes(), [column]: Object.fromEntries(changed) };
    this.sizes.set(sizes);
    localStorage.setItem(this.key(), JSON.stringify(sizes));
  }
}

function read(key: string): Record<string, ColumnSize> {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? '{}') ?? {}) as Record<string, ColumnSize>;
  } catch {
    return {};
  }
}

/** Where a pinned column stays, in pixels from the left and the right edge of what is in sight. */
export interface PinnedAt {
  left: number;
  right: number;
}

/** Where each column stays when the rest scrolls: beside the labels and the pinned columns before it, or those behind it. */
export function pinnedPlaces(
  columns: readonly { px: number; isPinned: boolean }[],
  labelPx: number,
): (PinnedAt | undefined)[] {
  const widths = columns.map(({ px, isPinned }) => (isPinned ? px : 0));
  const sum = (part: readonly number[]) => part.reduce((a, b) => a + b, 0);
  return columns.map(({ isPinned }, at) =>
    isPinned ? { left: labelPx + sum(widths.slice(0, at)), right: sum(widths.slice(at + 1)) } : undefined,
  );
}
