/** Orders versions by which is taken where none is named: those that are no drafts first, of these the newest. */
export const newestFirst = (a: { state: string; rank: number }, b: { state: string; rank: number }): number =>
  Number(a.state === 'draft') - Number(b.state === 'draft') || b.rank - a.rank;
