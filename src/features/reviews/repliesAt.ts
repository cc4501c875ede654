import { connectorOf } from "@/connectors";
import type { ConnectorId } from "@/core/reviews/sites";
import { MOST_REPLY } from "./drafts";

/** What replies a site takes: from here, or (a site without a connector) by hand; null where there are none. */
export function repliesAt(connector: ConnectorId | null): { longest: number } | null {
  return connector === null ? { longest: MOST_REPLY } : connectorOf(connector).reply;
}
