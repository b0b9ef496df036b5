// What shows figures, days and periods: all that a screen needs which only reads, without formulas and layouts, so that
// the first view of the application stays small. `index.ts` exports it too.
export { digitsOf } from './currency/minor-units';
export { type Figure, RATIO, stepsPerUnit, type Unit } from './figure/figure';
export { exactFigure, type FigureLook, formatFigure, shownPerUnit, type ShownUnit } from './figure/format-figure';
export { missingInWords } from './figure/missing-words';
export { dayInWords, dayShort, fiscalYearName, periodName, periodShort } from './period/period-name';
export { addUpTexts } from './statement/add-up';
export { lookOf } from './layout/figure-look';
export { holdsNothing } from './statement/holds-nothing';
