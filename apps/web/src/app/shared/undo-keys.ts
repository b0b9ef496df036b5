import type { SheetDraft } from './sheet/sheet-draft';

/** Takes back and does again by Ctrl Z and Ctrl Shift Z, wherever on the screen but in a field. */
export const undoesByKeys =
  (draft: Pick<SheetDraft, 'undo' | 'redo'>) =>
  (event: KeyboardEvent): void => {
    const inField = (event.target as HTMLElement).closest('input, select, textarea');
    if (inField || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
    event.preventDefault();
    draft[event.shiftKey ? 'redo' : 'undo']();
  };
