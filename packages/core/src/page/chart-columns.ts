/** Columns that charts of a row are drawn from. */
export const CHART_COLUMNS = 'months_against_plan';
