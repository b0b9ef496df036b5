import type { ShareLineView } from '@margin-lens/contract';

/** A share whose terms are asked for: what was paid for it, or got. */
export interface TermsAsked {
  share: ShareLineView;
  holder: string;
  held: string;
  /** Of the group, and of the entity that is held. */
  currency: string;
  ownCurrency: string;
}
