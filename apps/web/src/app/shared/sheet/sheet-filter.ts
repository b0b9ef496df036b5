/**
 * Whether a cell meets what is typed above its column: a part of it, its beginning with a star behind, or a range with two
 * points between its ends. Ends are compared as text, as ranges of accounts are; all that begins as the last one does is
 * within. Capitals count not.
 * @example meetsFilter('4010', '40*') // true
 * @example meetsFilter('4999', '4000..49') // true
 */
export function meetsFilter(cell: string, typed: string): boolean {
  const [text, filter] = [cell.trim().toLowerCase(), typed.trim().toLowerCase()];
  const range = /^(.*?)\s*\.\.\s*(.*)$/.exec(filter);
  if (!range) return filter.endsWith('*') ? text.startsWith(filter.slice(0, -1)) : text.includes(filter);
  const [, from = '', to = ''] = range;
  return text !== '' && text >= from && (to === '' || text <= to || text.startsWith(to));
}
