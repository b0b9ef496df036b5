import type { PackDocument, PackPage } from './pack-document';

/** A pack with the pages of others where it shares them, as they stand there; where there is none, the page stays as it is. */
export function withShared(pack: PackDocument, packs: readonly PackDocument[]): PackDocument {
  const resolved = (page: PackPage, passed: readonly string[]): PackPage => {
    if (page.kind !== 'shared' || passed.includes(page.pack)) return page;
    const found = packs.find(({ id }) => id === page.pack)?.pages.find(({ id }) => id === page.page);
    if (!found) return page;
    const there = resolved(found, [...passed, page.pack]);
    return there.kind === 'shared' ? page : placedAs(there, page);
  };
  return { ...pack, pages: pack.pages.map((page) => resolved(page, [pack.id])) };
}

/** A page in the place of one that shares it: it has the id of that, and what that says of itself. */
function placedAs(
  { follows: _, ...there }: PackPage,
  { id, title, orientation, follows, differs }: PackPage,
): PackPage {
  return {
    ...there,
    id,
    ...(title !== undefined && { title }),
    ...(orientation && { orientation }),
    ...(follows && { follows }),
    ...((differs ?? there.differs) && { differs: { ...there.differs, ...differs } }),
  };
}
