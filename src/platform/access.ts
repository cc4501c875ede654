import { sql } from "drizzle-orm";
import { headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import { may, type Permission, type Role } from "@/core/access/roles";
import { auth } from "./auth";
import { rowsOf, type Scope } from "./database";

export type Seat = {
  clientId: string;
  slug: string;
  name: string;
  zone: string;
  colour: string;
  agency: string;
  role: Role;
};

/** A signed-in person at one client: what they may do, and the scope that shows its rows. */
export type Access = Scope & { user: { id: string; name: string; email: string }; seat: Seat; seats: Seat[] };

const currentUser = cache(async () => {
  const session = await auth().api.getSession({ headers: await headers() });
  return session ? { id: session.user.id, name: session.user.name, email: session.user.email } : null;
});

const seatsOf = cache(async (userId: string): Promise<Seat[]> => {
  const rows = await rowsOf<{
    client_id: string;
    slug: string;
    name: string;
    zone: string;
    colour: string;
    agency: string;
    role: Role;
  }>(sql`select * from estima_seats_of(${userId})`);
  return rows.map(({ client_id, ...row }) => ({ clientId: client_id, ...row }));
});

/** Who is signed in and where they may go; sends everybody else to the sign-in page. */
export async function requireUser(): Promise<{ user: Access["user"]; seats: Seat[] }> {
  const user = await currentUser();
  if (!user) redirect("/sign-in");
  return { user, seats: await seatsOf(user.id) };
}

/**
 * Access to one client for one kind of action. A client that is not one's own is "not found", as if it did not exist; so
 * is a action that the role does not allow.
 */
export async function requireAccess(slug: string, action: Permission): Promise<Access> {
  const { user, seats } = await requireUser();
  const seat = seats.find((one) => one.slug === slug);
  if (!seat || !may(seat.role, action)) notFound();
  return { clientId: seat.clientId, user, seat, seats };
}
