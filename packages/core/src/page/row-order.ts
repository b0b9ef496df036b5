/** The order that rows are read in: by the figures of a column. */
export interface RowOrder {
  column: string;
  first: 'largest' | 'smallest';
}

/** An order as it stands in an address. @example 'ytd_change:largest' */
export const writeRowOrder = ({ column, first }: RowOrder): string => `${column}:${first}`;

/** The order of an address; undefined where it is none. */
export function readRowOrder(text: string | undefined): RowOrder | undefined {
  const at = text?.lastIndexOf(':') ?? -1;
  const first = text?.slice(at + 1);
  return at > 0 && (first === 'largest' || first === 'smallest') ? { column: text!.slice(0, at), first } : undefined;
}
