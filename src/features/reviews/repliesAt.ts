import { connectorOf } from "@/connectors";
import type { ConnectorId } from "@/core/reviews/sites";

/** How long a reply a site that is only linked to may have: it is put in by hand. */
const LONGEST_BY_HAND = 4000;

/** What replies a site takes: from here, or (a site without a connector) by hand; null where there are none. */
export function repliesAt(connector: ConnectorId | null): { longest: number } | null {
  return connector === null ? { longest: LONGEST_BY_HAND } : connectorOf(connector).reply;
}
