import type { DimensionTree } from '../account/dimension-tree';
import type { Account } from '../account/nature';
import type { ScopeEntity } from '../scope/scope';
import type { AllocationRule } from './allocation';
import type { BookVersion } from './version-in-view';

/** What books of all entities hang on beside their balances. */
export interface BookMasters {
  accounts: readonly Account[];
  /** Ids of the accounts in the cube, by number. */
  accountIds: ReadonlyMap<string, number>;
  versions: readonly BookVersion[];
  trees: readonly DimensionTree[];
  /** Trees as they were organised in an arrangement before the latest. */
  treesOf?: (arrangement: number) => readonly DimensionTree[];
  /** How shared costs can be spread. */
  allocations: readonly AllocationRule[];
  entities: readonly ScopeEntity[];
  /** Partners that are entities, by the entity: itself, and what else stands for it. */
  partnerCodes: ReadonlyMap<string, readonly string[]>;
}
