/** A version as columns and their heads need it. */
export interface VersionInView {
  code: string;
  name: string;
  kind: string;
  /** Key of the last actual period of a forecast; empty for other versions. */
  cutOver: string;
  /** Code of the version that a branch differs from; empty for other versions. */
  parent: string;
}

/** A version as its books need it. */
export interface BookVersion extends VersionInView {
  /** As stored. */
  id: number;
  fromPeriod: string;
  /** Set of rates that its own months are translated at; empty for that of its parent, or the usual one. */
  rateSet: string;
  settings: {
    /** What a plan opens with, where it is not the actual balances before its first month. */
    opening?: { version: string; period: string } | null;
    /** Revision that a locked version reads everything at. */
    frozenAt?: number;
  };
}
