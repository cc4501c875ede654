"use client";

import Link from "next/link";
import { type ComponentProps, createContext, type ReactNode, useContext } from "react";
import { permissionFor } from "@/core/access/paths";
import type { Permission } from "@/core/access/permissions";

/** What the person here may do at the client whose pages these are; null where nobody has said. */
const Allowed = createContext<readonly Permission[] | null>(null);

/** Says for all links below it what the person here may do. */
export function AllowedLinks({ permissions, children }: { permissions: readonly Permission[]; children: ReactNode }) {
  return <Allowed.Provider value={permissions}>{children}</Allowed.Provider>;
}

type Props = Omit<ComponentProps<typeof Link>, "href"> & { href: string };

/** A link within a client's pages. To a place that somebody may not see there is none: its words stand as they are. */
export function PlaceLink(props: Props) {
  const permissions = useContext(Allowed);
  const needed = permissionFor(props.href);
  if (permissions === null || needed === null || permissions.includes(needed)) return <Link {...props} />;
  if (props.className?.includes("button")) return null;
  return <span>{props.children}</span>;
}
