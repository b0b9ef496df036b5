/**
 * Which columns stand side by side on each sheet of paper, when not all fit on one; labels are repeated on each.
 *
 * Shape: positions of the columns, sheet by sheet; columns of one block stay together where the block fits on a sheet, and
 * a column wider than a sheet stands alone. Units: any, the same for all widths; `room` is what the labels leave.
 */
export function breakColumns(columns: readonly { block: string; width: number }[], room: number): number[][] {
  const sheets: number[][] = [[]];
  let left = room;
  const put = (at: number) => {
    const { width } = columns[at]!;
    if (width > left && sheets.at(-1)!.length > 0) {
      sheets.push([]);
      left = room;
    }
    sheets.at(-1)!.push(at);
    left -= width;
  };
  for (let from = 0; from < columns.length;) {
    const { block } = columns[from]!;
    const next = columns.findIndex((column, at) => at > from && column.block !== block);
    const to = next < 0 ? columns.length : next;
    const width = columns.slice(from, to).reduce((sum, column) => sum + column.width, 0);
    if (width > left && width <= room) {
      sheets.push([]);
      left = room;
    }
    for (let at = from; at < to; at++) put(at);
    from = to;
  }
  return sheets.filter((sheet) => sheet.length > 0);
}
