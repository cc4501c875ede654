import { sql } from "drizzle-orm";
import { headers } from "next/headers";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import {
  allowedBy,
  branchesFor,
  type Grant,
  givenFor,
  may,
  narrowed,
  OF_SHARED_PHONES,
  PERMISSIONS,
  type Permission,
  type PlacePermission,
  permissionsOf,
  type Rights,
  type StarterRole,
} from "@/core/access/permissions";
import { readAtPhone } from "./atPhone";
import { auth } from "./auth";
import { now as clockNow } from "./clock";
import { type AgencyScope, rowsOf, type Scope } from "./database";
import { setViewOnly } from "./requestState";
import { readSeenAs } from "./seenAs";

/** What somebody is: one of the roles that every agency has, or (`roleName`) one that theirs made. */
type Held = { role: StarterRole; roleName: string | null };

/** For how much of an agency somebody's widest seat is. */
export type SeatKind = "agency" | "group" | "client" | "branch";

export type Seat = Held &
  Rights & {
    /** What each of their seats here gives; `permissions` are all of them together, wherever at the client. */
    grants: readonly Grant[];
    kind: SeatKind;
    clientId: string;
    slug: string;
    name: string;
    zone: string;
    colour: string;
    agencyId: string;
    agency: string;
    agencySlug: string;
    agencyColour: string;
    /** Its logo, among the images; null for none. */
    agencyLogo: string | null;
    helpEmail: string;
  };

/** An agency for all of whose clients, or for a group of them, somebody has a seat. */
export type AgencySeat = Held &
  Rights & {
    agencyId: string;
    slug: string;
    name: string;
    colour: string;
    senderEmail: string;
    helpEmail: string;
    /** The group that it is for; null for all clients. */
    group: { id: string; name: string } | null;
  };

/** Whoever is signed in. */
export type User = {
  id: string;
  name: string;
  email: string;
  /** With which name their answers to customers end; null for none. */
  signature?: string | null;
  /** Who really is signed in, where somebody looks as this person. */
  seenBy?: string;
  /** The shared phone at which they are: its name. Nobody in particular has `isPhone`. */
  phone?: string;
  isPhone?: boolean;
};

/** A signed-in person at one client: what they may do, and the scope that shows its rows. */
export type Access = Scope & { user: User; seat: Seat; seats: Seat[] };

/** The scope of one of an agency's clients, for whoever has looked that it is one. */
export function atClient({ user, looksOnly }: AgencyAccess, clientId: string): Scope {
  return { clientId, user, looksOnly };
}

/** A signed-in person at their agency: what they may do, and the scope that shows its rows. */
export type AgencyAccess = AgencyScope & { user: User; seat: AgencySeat; agencies: AgencySeat[] };

type Session = { id: string; user: User & { twoFactorEnabled: boolean } };

const currentSession = cache(async (): Promise<Session | null> => {
  const found = await (await auth()).api.getSession({ headers: await headers() });
  if (!found) return null;
  const { id, name, email, replyName, twoFactorEnabled } = found.user;
  return {
    id: found.session.id,
    user: { id, name, email, signature: replyName ?? null, twoFactorEnabled: Boolean(twoFactorEnabled) },
  };
});

type HeldRow = { role: StarterRole; role_name: string | null; permissions: Permission[] | null };

type ClientRow = {
  client_id: string;
  slug: string;
  name: string;
  zone: string;
  colour: string;
  agency_id: string;
  agency: string;
  agency_slug: string;
  agency_colour: string;
  agency_logo: string | null;
  help_email: string;
};

const seatAt = (row: ClientRow) => ({
  clientId: row.client_id,
  slug: row.slug,
  name: row.name,
  zone: row.zone,
  colour: row.colour,
  agencyId: row.agency_id,
  agency: row.agency,
  agencySlug: row.agency_slug,
  agencyColour: row.agency_colour,
  agencyLogo: row.agency_logo,
  helpEmail: row.help_email,
});

type Seats = { seats: Seat[]; agencies: AgencySeat[]; needsTwoSteps: boolean };

const seatsOf = cache(async (userId: string): Promise<Seats> => {
  const [atClients, atAgencies] = await Promise.all([
    rowsOf<
      HeldRow &
        ClientRow & {
          needs_two_steps: boolean;
          kind: SeatKind;
          branch: string | null;
          shown: PlacePermission[] | null;
        }
    >(sql`select * from estima_seats_of(${userId})`),
    rowsOf<
      HeldRow & {
        agency_id: string;
        slug: string;
        name: string;
        colour: string;
        sender_email: string;
        help_email: string;
        needs_two_steps: boolean;
        only_group: string | null;
        group_name: string | null;
      }
    >(sql`select * from estima_agencies_of(${userId})`),
  ]);
  // One seat for each client: whoever has several there may do what any of them allows, where it allows it.
  const seats = new Map<string, Seat>();
  for (const row of atClients) {
    const permissions = narrowed(givenFor(row.kind, row.permissions ?? permissionsOf(row.role)), row.shown);
    const before = seats.get(row.client_id);
    const grants = [...(before?.grants ?? []), { permissions, branches: row.branch ? [row.branch] : null }];
    seats.set(row.client_id, {
      role: row.role,
      roleName: row.role_name,
      kind: row.kind,
      ...seatAt(row),
      ...before,
      grants,
      permissions: allowedBy(grants),
    });
  }
  const agencies = new Map<string, AgencySeat>();
  for (const row of atAgencies) {
    const { agency_id: agencyId, slug, name, colour } = row;
    const group = row.only_group ? { id: row.only_group, name: row.group_name ?? "" } : null;
    const own = givenFor(group ? "group" : "agency", row.permissions ?? permissionsOf(row.role));
    const before = agencies.get(agencyId);
    // A seat for all of them comes first, and what one has for a group beside it counts at the group's clients.
    if (before && (!before.group || group?.id !== before.group.id)) continue;
    agencies.set(agencyId, {
      role: row.role,
      roleName: row.role_name,
      agencyId,
      slug,
      name,
      colour,
      senderEmail: row.sender_email,
      helpEmail: row.help_email,
      group,
      permissions: PERMISSIONS.filter((one) => own.includes(one) || before?.permissions.includes(one)),
    });
  }
  const needsTwoSteps = [...atClients, ...atAgencies].some(({ needs_two_steps }) => needs_two_steps);
  return { seats: [...seats.values()], agencies: [...agencies.values()], needsTwoSteps };
});

type Entered = { user: User; seats: Seat[]; agencies: AgencySeat[]; looksOnly?: { refused(): never } };

/**
 * Whom whoever is signed in looks as, where they do: somebody with a seat at an agency whose people they manage, who
 * may do nothing that they may not do themselves. Only what that agency gave is seen.
 */
async function lookingAs(user: User, own: Seats): Promise<Entered | null> {
  const asked = await readSeenAs(user.id);
  const agency = asked && own.agencies.find(({ agencyId, group }) => agencyId === asked.agencyId && !group);
  if (!asked || !agency || !may(agency, "manage people")) return null;
  const [them] = await rowsOf<{ id: string; name: string; email: string }>(
    sql`select id, name, email from users where id = ${asked.userId}`,
  );
  if (!them) return null;
  const theirs = await seatsOf(them.id);
  const isOfAgency = ({ agencyId }: { agencyId: string }) => agencyId === agency.agencyId;
  const seats = theirs.seats.filter(isOfAgency);
  const agencies = theirs.agencies.filter(isOfAgency);
  if (seats.length + agencies.length === 0) return null;
  if (![...seats, ...agencies].every(({ permissions }) => permissions.every((one) => may(agency, one)))) return null;
  return {
    user: { ...them, seenBy: user.name },
    seats,
    agencies,
    looksOnly: { refused: () => redirect("/looking") },
  };
}

/**
 * What a shared phone may do; null for a session that is a person's. It may do the same whoever said on it who they are:
 * their name stands beside what is done there, and nothing of their role comes with it.
 */
async function atSharedPhone({ id, user }: Session): Promise<Entered | null> {
  if (!user.id.startsWith(PHONE_USER)) return null;
  const [phone] = await rowsOf<{ client_id: string; branch: string | null; name: string; until: string }>(
    sql`select * from estima_phone_of(${user.id})`,
  );
  if (!phone || new Date(phone.until).getTime() < (await clockNow())) redirect("/sign-in");
  const [client] = await rowsOf<ClientRow>(sql`select * from estima_client_of_phone(${user.id})`);
  const permissions = [...OF_SHARED_PHONES];
  const seat: Seat = {
    ...seatAt(client),
    role: "desk",
    roleName: phone.name,
    kind: phone.branch ? "branch" : "client",
    grants: [{ permissions, branches: phone.branch ? [phone.branch] : null }],
    permissions,
  };
  const person = await whoAtPhone(id, phone.client_id);
  const at = person
    ? { ...person, phone: phone.name }
    : { ...user, name: phone.name, phone: phone.name, isPhone: true };
  return { user: at, seats: [seat], agencies: [] };
}

/** Whoever said on a shared phone who they are, while they still have a seat at its client. */
async function whoAtPhone(sessionId: string, clientId: string): Promise<User | null> {
  const personId = await readAtPhone(sessionId);
  if (!personId || !(await seatsOf(personId)).seats.some((seat) => seat.clientId === clientId)) return null;
  const [person] = await rowsOf<{ id: string; name: string; email: string; reply_name: string | null }>(
    sql`select id, name, email, reply_name from users where id = ${personId}`,
  );
  return person ? { id: person.id, name: person.name, email: person.email, signature: person.reply_name } : null;
}

/** How the identifiers of users begin that are phones. */
export const PHONE_USER = "phone-";

/** Who is signed in and where they may go; sends everybody else to the sign-in page. */
export async function requireUser(): Promise<Entered> {
  const session = await currentSession();
  if (!session) redirect("/sign-in");
  const atPhone = await atSharedPhone(session);
  if (atPhone) return atPhone;
  const { twoFactorEnabled, ...user } = session.user;
  const own = await seatsOf(user.id);
  if (own.needsTwoSteps && !twoFactorEnabled) redirect("/account/two-steps");
  const seen = await lookingAs(user, own);
  if (seen?.looksOnly) setViewOnly(seen.looksOnly);
  return seen ?? { user, seats: own.seats, agencies: own.agencies };
}

/** Whoever is signed in as themselves, whatever they look as; or null. */
export async function signedIn(): Promise<Session["user"] | null> {
  return (await currentSession())?.user ?? null;
}

/** Their own session, for pages about their account; sends everybody else to the sign-in page. */
export async function requireSession(): Promise<Session> {
  const session = await currentSession();
  // A shared phone has no account: whoever is at it sees to theirs elsewhere.
  if (!session || session.user.id.startsWith(PHONE_USER)) redirect(session ? "/" : "/sign-in");
  return session;
}

/** The session of a shared phone, for whoever says there who they are; null where none is signed in. */
export async function sharedPhone(): Promise<{ sessionId: string; userId: string } | null> {
  const session = await currentSession();
  return session?.user.id.startsWith(PHONE_USER) ? { sessionId: session.id, userId: session.user.id } : null;
}

/** Whether a seat allows something at all branches of its client. */
export function mayEverywhere({ grants }: Seat, permission: Permission): boolean {
  return branchesFor(grants, permission) === null;
}

/** A seat at one client, whatever it allows. A client that is not one's own is "not found", as if it did not exist. */
export async function requireSeat(slug: string): Promise<Access> {
  const { user, seats, looksOnly } = await requireUser();
  const seat = seats.find((one) => one.slug === slug);
  if (!seat) notFound();
  const bound = seat.grants.every(({ branches }) => branches !== null);
  const branches = bound ? seat.grants.flatMap((grant) => grant.branches ?? []) : null;
  return { clientId: seat.clientId, branches, user, seat, seats, looksOnly };
}

/** At how much of a client something is done. */
export type ClientReach = "own branches" | "whole client";

/** At how much of an agency something is done: with rows that are all its clients', or at those clients that one has. */
export type AgencyReach = "whole agency" | "own clients";

/**
 * Access to one client for one kind of action, at the branches where the seat allows it; with "whole client" only
 * where that is all of them. What is done in a place (`place`) is also refused to those who are not shown it. What the
 * seat does not allow is "not found", as is another's client.
 */
export async function requireAccess(
  slug: string,
  permission: Permission,
  reach: ClientReach = "own branches",
  place: PlacePermission | null = null,
): Promise<Access> {
  const access = await requireSeat(slug);
  if (!may(access.seat, permission) || (place && !may(access.seat, place))) notFound();
  const branches = branchesFor(access.seat.grants, permission);
  if (branches && reach === "whole client") notFound();
  return { ...access, branches };
}

/**
 * A seat for the clients of one agency; with `permission` only one that allows it. Else "not found". Whoever has it for
 * a group is shown the clients of the group, and has no access to what is the whole agency's.
 */
export async function requireAgency(
  slug: string,
  permission: Permission | null = null,
  reach: AgencyReach = "own clients",
): Promise<AgencyAccess> {
  const { user, agencies, looksOnly } = await requireUser();
  const seat = agencies.find((one) => one.slug === slug);
  if (!seat || (permission && !may(seat, permission)) || (reach === "whole agency" && seat.group)) notFound();
  return { agencyId: seat.agencyId, group: seat.group?.id ?? null, user, seat, agencies, looksOnly };
}
