/**
 * The type under which figures go from one sheet of the application to another: the same block as the text beside it,
 * in whole units and in each row's own reading (costs positive), so that neither sign nor unit is guessed.
 */
export const FIGURES_TYPE = 'text/x-margin-lens-figures';
