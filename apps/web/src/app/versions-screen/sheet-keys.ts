/** Moves so many rows and columns; `commits` what is being typed before. */
interface StepCommand {
  do: 'step';
  rows: number;
  columns: number;
  extends: boolean;
  commits?: true;
}

/** What a key does in a planning sheet. */
export type SheetCommand =
  | StepCommand
  /** Goes to a place; without a row in the row where the cursor stands. */
  | { do: 'go'; row?: number; column: number; extends: boolean }
  | { do: 'open'; opens: boolean }
  | { do: 'select_all' | 'edit' | 'stop_typing' | 'clear_block' | 'clear' | 'undo' | 'redo' | 'help' }
  /** Fills the selection from its first column or row, or with what is being typed. */
  | { do: 'fill_right' | 'fill_down' | 'fill_typed' };

type Key = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>;

/** Rows of a page. */
const PAGE = 20; // 5 to 50
/** Farther than any sheet reaches. */
const TO_THE_EDGE = 10_000;
const STEPS: Record<string, [rows: number, columns: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

const step = (rows: number, columns: number, isExtended: boolean): StepCommand => ({
  do: 'step',
  rows,
  columns,
  extends: isExtended,
});

/** Enter and Tab go on, back with Shift. */
function goOn({ key, shiftKey }: Key): StepCommand | undefined {
  const way = shiftKey ? -1 : 1;
  if (key === 'Enter') return step(way, 0, false);
  return key === 'Tab' ? step(0, way, false) : undefined;
}

/**
 * What a key does while something is typed into a cell; undefined leaves it to the input. Arrows go on to the next cell
 * unless the person asked for a caret (F2).
 */
export function typingCommand(key: Key, hasCaret: boolean): SheetCommand | undefined {
  if (key.key === 'Escape') return { do: 'stop_typing' };
  if (key.key === 'Enter' && (key.ctrlKey || key.metaKey)) return { do: 'fill_typed' };
  const arrow = !hasCaret && !key.ctrlKey && !key.metaKey ? STEPS[key.key] : undefined;
  const next = arrow ? step(arrow[0], arrow[1], false) : goOn(key);
  return next && { ...next, commits: true as const };
}

/** What a key does on a cell that nothing is typed into; undefined leaves it alone. */
export function sheetCommand(event: Key): SheetCommand | undefined {
  const { key, shiftKey, altKey } = event;
  if (altKey) return key === 'ArrowDown' || key === 'ArrowUp' ? { do: 'open', opens: key === 'ArrowDown' } : undefined;
  if (event.ctrlKey || event.metaKey) return controlCommand(event);
  const arrow = STEPS[key];
  if (arrow) return step(arrow[0], arrow[1], shiftKey);
  switch (key) {
    case 'Home':
      return { do: 'go', column: 0, extends: shiftKey };
    case 'End':
      return { do: 'go', column: Infinity, extends: shiftKey };
    case 'PageDown':
      return step(PAGE, 0, shiftKey);
    case 'PageUp':
      return step(-PAGE, 0, shiftKey);
    case 'F2':
      return { do: 'edit' };
    case 'Delete':
    case 'Backspace':
      return { do: 'clear' };
    case '?':
      return { do: 'help' };
    case 'Escape':
      return { do: 'clear_block' };
    default:
      return goOn(event);
  }
}

function controlCommand({ key, shiftKey }: Key): SheetCommand | undefined {
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
      return { do: 'go', row: Infinity, column: Infinity, extends: shiftKey };
    default:
      return undefined;
  }
}
