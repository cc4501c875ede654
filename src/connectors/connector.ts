import type { Scale } from "@/core/reviews/rating";
import type { ConnectorId } from "@/core/reviews/sites";

/**
 * What Estima can do at a review site. Each site has a folder with its connector: what it can do, and how. All of them
 * pass one contract test (tests/integration/sites.test.ts).
 */

/** A review as a site tells it. Instants are milliseconds since the epoch. */
export type SiteReview = {
  id: string;
  author: string;
  /** On the site's own scale: 1 to 5, 1 to 10 in tenths, or 1 for recommended and 0 for not. */
  value: number;
  words: string;
  writtenAt: number;
  /** When anything about it changed last. */
  changedAt: number;
  isDeleted: boolean;
  /** Somebody reported it to the site, which has not decided yet. */
  isReported: boolean;
  /** The business's reply that stands with it; undefined where the site has none. */
  reply?: { words: string; at: number } | null;
};

export type ReadPage = {
  reviews: SiteReview[];
  /** Where the next page begins. Kept as it is; "" begins anew. */
  cursor: string;
  more: boolean;
  /** How many there are in all, where the site tells. */
  total: number | null;
  /**
   * Whether the page holds what changed, or belongs to a reading of everything that is there: then what it does not
   * hold, once it is through, is gone. "all, from the start" begins such a reading.
   */
  holds: "changes" | "all, from the start" | "all, going on";
  /** Seconds after which the site wants to be asked again at the earliest. */
  restSeconds: number | null;
};

/** A business as a site's search finds it. */
export type FoundPlace = {
  id: string;
  name: string;
  address: string;
  /** The page that customers see. */
  url: string;
  /** As the site counts: "4.6 of 5"; null before the first review. */
  rating: string | null;
  count: number;
};

/** A place at a site: the address of its interface, and the key or token that opens it; null where none is needed. */
export type SiteAccess = { url: string; secret: string | null };

/** Tokens of an account at a site (RFC 6749). */
export type Tokens = { access: string; refresh: string; expiresInSeconds: number; account: string };

export type SignIn = {
  /** Where somebody agrees, in their browser. `challenge` is the SHA-256 of the verifier in base64url (RFC 7636). */
  address(it: { state: string; challenge: string; returnTo: string }): string;
  redeem(it: { code: string; verifier: string; returnTo: string }): Promise<Tokens>;
  /** Ends the tokens before. Throws "key refused" where the sign-in has ended. */
  refresh(refreshToken: string): Promise<Tokens>;
};

export type Connector = {
  id: ConnectorId;
  /** As customers know the site. */
  name: string;
  scale: Scale;
  /** By which a place is opened: a key of its owner, a sign-in, or nothing. */
  access: "key" | "sign-in" | "open";
  /** Where an owner finds the key of a place, below the page that customers see. */
  keyPage?: string;
  /** Characters that a reply may have; null where the site takes none. */
  reply: { longest: number } | null;
  /** Whether this installation knows where the site is. */
  isReachable(): boolean;
  search(name: string, town: string): Promise<FoundPlace[]>;
  /** The address of a place's interface. */
  placeUrl(placeId: string): string;
  read(access: SiteAccess, cursor: string): Promise<ReadPage>;
  /** Puts the reply to a review, or changes it; twice the same is once. `key` is one for each reply that is written. */
  putReply?(access: SiteAccess, reviewId: string, words: string, key: string): Promise<void>;
  takeDownReply?(access: SiteAccess, reviewId: string): Promise<void>;
  /** Asks the site to tell an address of new reviews, signed with a secret (Standard Webhooks). */
  listen?(access: SiteAccess, hook: { address: string; secret: string }): Promise<void>;
  signIn?: SignIn;
};
