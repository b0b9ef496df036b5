/** Fields, lists that are searched by typing, and what lies above the page. */
const TAKES_LETTERS =
  'input, textarea, [contenteditable="true"], [role="combobox"], [role="listbox"], [role="menu"], [role="dialog"]';

/** Whether letters typed there are meant for what has the keyboard, so that single keys must not act. */
export const takesLetters = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest(TAKES_LETTERS) !== null;
