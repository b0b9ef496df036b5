/** Moves so many rows and columns; `commits` what is being typed before, `leaves` the grid at its edge. */
interface StepCommand {
  do: 'step';
  rows: number;
  columns: number;
  extends: boolean;
  commits?: true;
  leaves?: true;
}

/** What a key does in a grid. */
export type GridCommand =
  | StepCommand
  /** So many windows of rows. */
  | { do: 'page'; pages: 1 | -1; extends: boolean }
  /** Goes to a place; without a row in the row where the cursor stands. */
  | { do: 'go'; row?: number; column: number; extends: boolean }
  | { do: 'open'; opens: boolean }
  /** Makes the column wider or narrower. */
  | { do: 'widen'; steps: 1 | -1 }
  | { do: 'enter' | 'enter_back' | 'space' | 'pin' }
  | { do: 'select_all' | 'edit' | 'stop_typing' | 'shrink' | 'clear' | 'undo' | 'redo' }
  /** Fills the selection from its first column or row, or with what is being typed. */
  | { do: 'fill_right' | 'fill_down' | 'fill_typed' };

type Key = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/** Farther than any grid reaches. */
const TO_THE_EDGE = 10_000_000;
const STEPS: Record<string, [rows: number, columns: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

const step = (rows: number, columns: number, isExtended: boolean): StepCommand => ({
  ...{ do: 'step', rows, columns },
  extends: isExtended,
});

/**
 * What a key does while something is typed into a cell; undefined leaves it to the input. Arrows go on to the next cell
 * unless the person asked for a caret (F2).
 */
export function typingCommand(key: Key, hasCaret: boolean): GridCommand | undefined {
  const hasControl = key.ctrlKey || key.metaKey;
  const way = key.shiftKey ? -1 : 1;
  if (key.key === 'Escape') return { do: 'stop_typing' };
  if (key.key === 'Enter' && hasControl) return { do: 'fill_typed' };
  if (key.key === 'Enter') return { ...step(way, 0, false), commits: true };
  if (key.key === 'Tab') return { ...step(0, way, false), commits: true };
  const arrow = !hasCaret && !hasControl ? STEPS[key.key] : undefined;
  return arrow && { ...step(arrow[0], arrow[1], false), commits: true };
}

/** What a key does on a cell that nothing is typed into; undefined leaves it alone. */
export function gridCommand(event: Key): GridCommand | undefined {
  const { key, shiftKey } = event;
  if (event.altKey) return altCommand(event);
  if (event.ctrlKey || event.metaKey) return controlCommand(event);
  const arrow = STEPS[key];
  if (arrow) return step(arrow[0], arrow[1], shiftKey);
  switch (key) {
    case 'Home':
      return { do: 'go', column: 0, extends: shiftKey };
    case 'End':
      return { do: 'go', column: TO_THE_EDGE, extends: shiftKey };
    case 'PageDown':
      return { do: 'page', pages: 1, extends: shiftKey };
    case 'PageUp':
      return { do: 'page', pages: -1, extends: shiftKey };
    case 'Enter':
      return { do: shiftKey ? 'enter_back' : 'enter' };
    case 'Tab':
      return { ...step(0, shiftKey ? -1 : 1, false), leaves: true };
    case ' ':
      return { do: 'space' };
    case 'F2':
      return { do: 'edit' };
    case 'Delete':
    case 'Backspace':
      return { do: 'clear' };
    case 'Escape':
      return { do: 'shrink' };
    default:
      return undefined;
  }
}

function altCommand({ key, shiftKey }: Key): GridCommand | undefined {
  const arrow = STEPS[key];
  if (!arrow) return key.toLowerCase() === 'p' ? { do: 'pin' } : undefined;
  const [rows, columns] = arrow;
  if (rows !== 0) return shiftKey ? undefined : { do: 'open', opens: rows > 0 };
  return shiftKey ? { do: 'widen', steps: columns > 0 ? 1 : -1 } : undefined;
}

function controlCommand({ key, shiftKey }: Key): GridCommand | undefined {
  const arrow = STEPS[key];
  if (arrow) return step(arrow[0] * TO_THE_EDGE, arrow[1] * TO_THE_EDGE, shiftKey);
  switch (key.toLowerCase()) {
    case 'z':
      return { do: shiftKey ? 'redo' : 'undo' };
    case 'y':
      return { do: 'redo' };
    case 'a':
      return { do: 'select_all' };
    case 'r':
      return { do: 'fill_right' };
    case 'd':
      return { do: 'fill_down' };
    case 'home':
      return { do: 'go', row: 0, column: 0, extends: shiftKey };
    case 'end':
      return { do: 'go', row: TO_THE_EDGE, column: TO_THE_EDGE, extends: shiftKey };
    default:
      return undefined;
  }
}

/** What a key writes; undefined for keys that write nothing. */
export const writtenText = ({ key, ctrlKey, metaKey, altKey }: Key): string | undefined =>
  key.length === 1 && !ctrlKey && !metaKey && !altKey ? key : undefined;

/** The text that a key begins in a cell; none for the space bar, and the question mark, which asks for help. */
export const typedText = (key: Key): string | undefined =>
  key.key === ' ' || key.key === '?' ? undefined : writtenText(key);
