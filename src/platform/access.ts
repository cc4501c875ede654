import { sql } from "drizzle-orm";
import { headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import {
  may,
  narrowed,
  type Permission,
  type PlacePermission,
  permissionsOf,
  type Rights,
  type StarterRole,
} from "@/core/access/permissions";
import { auth } from "./auth";
import { type AgencyScope, rowsOf, type Scope } from "./database";

/** What somebody is and may do: one of the roles that every agency has, or (`roleName`) one that theirs made. */
type Held = Rights & { role: StarterRole; roleName: string | null };

export type Seat = Held & {
  clientId: string;
  slug: string;
  name: string;
  zone: string;
  colour: string;
  agencyId: string;
  agency: string;
  agencySlug: string;
};

/** An agency for all of whose clients somebody has a seat. */
export type AgencySeat = Held & { agencyId: string; slug: string; name: string; colour: string; senderEmail: string };

type User = { id: string; name: string; email: string };

/** A signed-in person at one client: what they may do, and the scope that shows its rows. */
export type Access = Scope & { user: User; seat: Seat; seats: Seat[] };

/** A signed-in person at their agency: what they may do, and the scope that shows its rows. */
export type AgencyAccess = AgencyScope & { user: User; seat: AgencySeat; agencies: AgencySeat[] };

const currentUser = cache(async () => {
  const session = await auth().api.getSession({ headers: await headers() });
  return session ? { id: session.user.id, name: session.user.name, email: session.user.email } : null;
});

type HeldRow = { role: StarterRole; role_name: string | null; permissions: Permission[] | null };

const heldOf = ({ role, role_name, permissions }: HeldRow, shown: PlacePermission[] | null = null): Held => ({
  role,
  roleName: role_name,
  permissions: narrowed(permissions ?? permissionsOf(role), shown),
});

/** One seat for each place: whoever has several there may do what any of them allows. */
function joined<T extends Held>(seats: T[], placeOf: (seat: T) => string): T[] {
  const found = new Map<string, T>();
  for (const seat of seats) {
    const before = found.get(placeOf(seat));
    found.set(
      placeOf(seat),
      before ? { ...before, permissions: [...new Set([...before.permissions, ...seat.permissions])] } : seat,
    );
  }
  return [...found.values()];
}

const seatsOf = cache(async (userId: string): Promise<Seat[]> => {
  const rows = await rowsOf<
    HeldRow & {
      client_id: string;
      slug: string;
      name: string;
      zone: string;
      colour: string;
      agency_id: string;
      agency: string;
      agency_slug: string;
      shown: PlacePermission[] | null;
    }
  >(sql`select * from estima_seats_of(${userId})`);
  const seats = rows.map((row): Seat => {
    const { client_id, slug, name, zone, colour, agency_id, agency, agency_slug, shown } = row;
    return {
      ...heldOf(row, shown),
      clientId: client_id,
      slug,
      name,
      zone,
      colour,
      agencyId: agency_id,
      agency,
      agencySlug: agency_slug,
    };
  });
  return joined(seats, ({ clientId }) => clientId);
});

const agenciesOf = cache(async (userId: string): Promise<AgencySeat[]> => {
  const rows = await rowsOf<
    HeldRow & { agency_id: string; slug: string; name: string; colour: string; sender_email: string }
  >(sql`select * from estima_agencies_of(${userId})`);
  const seats = rows.map(
    (row): AgencySeat => ({
      ...heldOf(row),
      agencyId: row.agency_id,
      slug: row.slug,
      name: row.name,
      colour: row.colour,
      senderEmail: row.sender_email,
    }),
  );
  return joined(seats, ({ agencyId }) => agencyId);
});

/** Who is signed in and where they may go; sends everybody else to the sign-in page. */
export async function requireUser(): Promise<{ user: User; seats: Seat[]; agencies: AgencySeat[] }> {
  const user = await currentUser();
  if (!user) redirect("/sign-in");
  return { user, seats: await seatsOf(user.id), agencies: await agenciesOf(user.id) };
}

/** Whoever is signed in, or null. */
export const signedIn = currentUser;

/** A seat at one client, whatever it allows. A client that is not one's own is "not found", as if it did not exist. */
export async function requireSeat(slug: string): Promise<Access> {
  const { user, seats } = await requireUser();
  const seat = seats.find((one) => one.slug === slug);
  if (!seat) notFound();
  return { clientId: seat.clientId, user, seat, seats };
}

/** Access to one client for one kind of action. What the seat does not allow is "not found", as is another's client. */
export async function requireAccess(slug: string, permission: Permission): Promise<Access> {
  const access = await requireSeat(slug);
  if (!may(access.seat, permission)) notFound();
  return access;
}

/** A seat for all clients of one agency; with `permission` only one that allows it. Else "not found". */
export async function requireAgency(slug: string, permission: Permission | null = null): Promise<AgencyAccess> {
  const { user, agencies } = await requireUser();
  const seat = agencies.find((one) => one.slug === slug);
  if (!seat || (permission && !may(seat, permission))) notFound();
  return { agencyId: seat.agencyId, user, seat, agencies };
}
