import type { ConnectorId } from "@/core/reviews/sites";
import { commons } from "./commons";
import type { Connector } from "./connector";
import { tenfold } from "./tenfold";
import { waypost } from "./waypost";

export { SiteUnreachable } from "./call";
export type { Connector, FoundPlace, ReadPage, SiteAccess, SiteReview, Tokens } from "./connector";

const CONNECTORS: Record<ConnectorId, Connector> = { waypost, commons, tenfold };

export const connectorOf = (id: ConnectorId): Connector => CONNECTORS[id];

/** All that this installation knows where to reach. */
export const reachableConnectors = (): Connector[] => Object.values(CONNECTORS).filter((each) => each.isReachable());
