import { type ShownUnit, typedPlain } from '@margin-lens/core/shown';
import { plainNumber } from '../shared/typed-amount';

/** Figures in whole units as whoever reads would type them where a unit is shown. @example inUnit('289500\t10', 1000) // '289.5\t0.01' */
export const inUnit = (text: string, unit: ShownUnit): string =>
  text.replace(/[^\t\n\r]+/g, (cell) => {
    const whole = Number(plainNumber(cell) ?? NaN);
    return cell.trim() === '' || Number.isNaN(whole)
      ? cell
      : typedPlain(String(Number((whole / unit).toPrecision(15))));
  });
