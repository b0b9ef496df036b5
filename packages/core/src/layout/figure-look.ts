import type { FigureLook } from '../figure/format-figure';
import type { Presentation } from './statement-document';

/** The look of figures that a presentation asks for. */
export const lookOf = ({ decimals, negative, zero }: Presentation): FigureLook => ({ decimals, negative, zero });
