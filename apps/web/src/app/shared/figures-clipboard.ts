import type { ShownUnit } from '@margin-lens/core/shown';

/**
 * The type under which figures go from one sheet of the application to another: the same block as the text beside it,
 * in whole units and in each row's own reading (costs positive), so that neither sign nor unit is guessed.
 */
export const FIGURES_TYPE = 'text/x-margin-lens-figures';

/** Figures in whole units as they would be typed where a unit is shown. @example inUnit('289500\t10', 1000) // '289.5\t0.01' */
export const inUnit = (text: string, unit: ShownUnit): string =>
  text.replace(/[^\t\n\r]+/g, (cell) => {
    const whole = Number(cell);
    return cell.trim() === '' || Number.isNaN(whole) ? cell : String(Number((whole / unit).toPrecision(15)));
  });
