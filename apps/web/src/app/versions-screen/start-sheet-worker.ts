/** Starts the thread that a planning sheet is evaluated in. */
export const startSheetWorker = (): Worker =>
  new Worker(new URL('./sheet.worker', import.meta.url), { type: 'module' });
