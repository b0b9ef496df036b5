/** The parts of a workspace that move on their own. What is kept ready is kept under the parts that it was made from. */
export const PARTS = ['ledger', 'figures', 'rates', 'ownership', 'masters', 'documents', 'remarks'] as const;
export type Part = (typeof PARTS)[number];

/**
 * The moment of a workspace: for each part the revision that last moved it.
 *
 * Shape: revisions from 1 on; 0 where a part was never written.
 */
export type Generation = Readonly<Record<Part, number>>;

export const FIRST_GENERATION: Generation = {
  ledger: 0,
  figures: 0,
  rates: 0,
  ownership: 0,
  masters: 0,
  documents: 0,
  remarks: 0,
};

/** The generation after a revision that moves some parts. */
export function movedTo(before: Generation, touches: Iterable<Part>, revision: number): Generation {
  const after: Record<Part, number> = { ...before };
  for (const part of touches) after[part] = revision;
  return after;
}

/**
 * Some parts of a generation as a text: equal as long as none of them has moved.
 * @example partsKey({ ...FIRST_GENERATION, ledger: 4 }, ['ledger', 'masters']) // '4.0'
 */
export const partsKey = (generation: Generation, parts: readonly Part[]): string =>
  parts.map((part) => generation[part]).join('.');
