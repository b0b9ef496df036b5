/** The values of a dimension; a value without a parent stands at the top. */
export interface DimensionTree {
  name: string;
  values: readonly { value: string; name: string; parent: string }[];
}
