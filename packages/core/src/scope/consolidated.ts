import type {
  AcquiredItem,
  AssetTransfer,
  AssociateResult,
  Disposal,
  EliminationLine,
  Impairment,
  StandingRule,
  StockHeld,
} from './group-records';
import type { Holding } from './group-structure';
import type { ScopeMember } from './scope';

/** What the eliminations of all groups are made from, beside books and rates. */
export interface ConsolidationFacts {
  holdings: readonly Holding[];
  acquired: readonly AcquiredItem[];
  disposals: readonly Disposal[];
  impairments: readonly Impairment[];
  associateResults: readonly AssociateResult[];
  stockHeld: readonly StockHeld[];
  assetTransfers: readonly AssetTransfer[];
  rules: readonly StandingRule[];
  /** Entered by hand. */
  byHand: readonly EliminationLine[];
  /** Codes of partners that are entities, by the entity's code; the entity itself among them. */
  partnerCodes: ReadonlyMap<string, readonly string[]>;
}

/** How a group is consolidated. */
export interface Consolidated {
  group: string;
  topEntity: string;
  /** ISO 4217 code that amounts by hand are in. */
  currency: string;
  /** Whether goodwill below an entity with outside owners is that of the owners of the head alone. */
  tiers: 'effective' | 'sequential';
  facts: ConsolidationFacts;
  /** Entities that are held as associates, in the periods in which they are. */
  associates: readonly ScopeMember[];
}
