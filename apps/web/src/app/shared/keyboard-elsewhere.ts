/** Whether the keyboard is in the window around this one: what stands beside follows without taking it. */
export const isKeyboardElsewhere = (): boolean => window.parent !== window && !document.hasFocus();
