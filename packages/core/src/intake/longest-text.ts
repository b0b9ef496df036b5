/** Characters that a description or document may have. */
export const LONGEST_TEXT = 1000;
