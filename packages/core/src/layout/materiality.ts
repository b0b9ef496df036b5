/** Limits beyond which a variance needs an explanation. */
export interface Materiality {
  /** In minor units. */
  amount: number;
  /** As a fraction. */
  percent: number;
}
