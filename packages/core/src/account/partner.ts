/** Whom postings are against: a customer, a supplier or someone else; the entities are partners of each other as they are. */
export interface Partner {
  code: string;
  name: string;
  kind: 'customer' | 'supplier' | 'other';
  /** Code of the entity that it is, where it is one of ours; else empty. */
  entity: string;
  /** What it belongs to, such as a chain of shops; else empty. */
  group: string;
}
