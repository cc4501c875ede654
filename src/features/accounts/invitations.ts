import { createHash } from "node:crypto";
import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { permissionsOf, type Rights } from "@/core/access/permissions";
import { DAY } from "@/core/time/zone";
import { typedEmail, typedText } from "@/core/words/typed";
import { type AgencyScope, rowsOf, type Tx, withAgency } from "@/platform/database";
import { hashPassword } from "@/platform/passwords";
import { newToken } from "@/platform/secrets";
import { accounts, clientGroups, invitations, roles, users } from "@/schema/accounts";
import { branches, clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { nameOfPlace, type Place, placeChoice, placeColumns } from "./places";
import { type Given, holds, roleChoice } from "./roles";
import { addSeat } from "./seats";
import { recordAccountEntry } from "./trail";

/** Invitations by email: used once, for a week, sent again or withdrawn. Only a hash of the link's token is kept. */

export const INVITATION_DAYS = 7;

export type Invitation = {
  id: string;
  email: string;
  name: string;
  role: Given["role"];
  roleName: string | null;
  /** What the place is called; null for the whole agency. */
  place: string | null;
  by: string;
  sentAt: number;
  expiresAt: number;
} & Place;

export const invitationInput = z.object({
  name: typedText(80, "Enter a name.", "the name"),
  email: typedEmail,
  role: roleChoice,
  place: placeChoice,
});

export const passwordInput = z
  .string()
  .min(10, "Use at least ten characters.")
  .max(128, "That’s too long for a password.");

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** Invitations that wait to be taken, latest first; those that have run out too. */
export async function listInvitations(
  tx: Tx,
  scope: AgencyScope,
  clientId: string | null = null,
): Promise<Invitation[]> {
  const rows = await tx
    .select({
      id: invitations.id,
      email: invitations.email,
      name: invitations.name,
      role: invitations.role,
      roleName: roles.name,
      ...placeColumns(invitations),
      by: invitations.by,
      sentAt: invitations.sentAt,
      expiresAt: invitations.expiresAt,
    })
    .from(invitations)
    .leftJoin(roles, eq(roles.id, invitations.roleId))
    .leftJoin(clientGroups, eq(clientGroups.id, invitations.onlyGroup))
    .leftJoin(clients, eq(clients.id, invitations.onlyClient))
    .leftJoin(branches, eq(branches.id, invitations.onlyBranch))
    .where(
      and(
        eq(invitations.agencyId, scope.agencyId),
        isNull(invitations.endedAt),
        clientId ? eq(invitations.onlyClient, clientId) : undefined,
      ),
    )
    .orderBy(desc(invitations.sentAt), desc(invitations.id));
  return rows.map(({ groupName, clientName, branchName, ...row }) => ({
    ...row,
    place: nameOfPlace({ ...row, groupName, clientName, branchName }),
  }));
}

/**
 * Invites somebody; whoever was invited to the same before has only the new link. Gives the link's token, which is
 * nowhere else.
 */
export async function invite(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  it: { email: string; name: string; place: Place; given: Given },
  now: number,
): Promise<{ id: string; token: string }> {
  const token = newToken(24);
  const id = newId();
  const { email, name, given } = it;
  const { onlyGroup, onlyClient, onlyBranch } = it.place;
  await tx
    .update(invitations)
    .set({ endedAt: now, ended: "withdrawn" })
    .where(
      and(
        eq(invitations.agencyId, scope.agencyId),
        eq(invitations.email, email),
        isNull(invitations.endedAt),
        sql`(${invitations.onlyGroup}, ${invitations.onlyClient}, ${invitations.onlyBranch}) is not distinct from (${onlyGroup}::uuid, ${onlyClient}::uuid, ${onlyBranch}::uuid)`,
      ),
    );
  await tx.insert(invitations).values({
    id,
    agencyId: scope.agencyId,
    email,
    name,
    onlyGroup,
    onlyClient,
    onlyBranch,
    role: given.role,
    roleId: given.roleId,
    tokenHash: hashOf(token),
    by: who,
    sentAt: now,
    expiresAt: now + INVITATION_DAYS * DAY,
  });
  await recordAccountEntry(tx, scope, {
    at: now,
    who,
    action: "invited",
    subject: "invitation",
    name,
    aboutClient: onlyClient,
  });
  return { id, token };
}

/** Whoever sees to invitations, and what they may do themselves. */
export type Inviter = { name: string; rights: Rights };

/** Whether an invitation that waits gives no more than somebody may do themselves; null where none waits. */
async function isWithin(tx: Tx, scope: AgencyScope, by: Inviter, id: string): Promise<boolean | null> {
  const [row] = await tx
    .select({ role: invitations.role, permissions: roles.permissions })
    .from(invitations)
    .leftJoin(roles, eq(roles.id, invitations.roleId))
    .where(open(scope, id))
    .for("update", { of: invitations });
  return row ? holds(by.rights, row.permissions ?? permissionsOf(row.role)) : null;
}

/**
 * Makes a new link for an invitation that waits, good for another week; the old link leads nowhere. An invitation to
 * more than one may do oneself is left as it is.
 */
export async function renewInvitation(
  tx: Tx,
  scope: AgencyScope,
  by: Inviter,
  id: string,
  now: number,
): Promise<({ email: string; name: string; token: string } & Place) | "beyond your own" | null> {
  if ((await isWithin(tx, scope, by, id)) === false) return "beyond your own";
  const token = newToken(24);
  const [row] = await tx
    .update(invitations)
    .set({ tokenHash: hashOf(token), sentAt: now, expiresAt: now + INVITATION_DAYS * DAY, by: by.name })
    .where(open(scope, id))
    .returning();
  if (!row) return null;
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: "invited again",
    subject: "invitation",
    name: row.name,
    aboutClient: row.onlyClient,
  });
  const { email, name, onlyGroup, onlyClient, onlyBranch } = row;
  return { email, name, onlyGroup, onlyClient, onlyBranch, token };
}

/**
 * Ends an invitation that waits; its link leads nowhere from then on. One to more than one may do oneself is left as it
 * is.
 */
export async function withdrawInvitation(
  tx: Tx,
  scope: AgencyScope,
  by: Inviter,
  id: string,
  now: number,
): Promise<"withdrawn" | "missing" | "beyond your own"> {
  if ((await isWithin(tx, scope, by, id)) === false) return "beyond your own";
  const [row] = await tx
    .update(invitations)
    .set({ endedAt: now, ended: "withdrawn" })
    .where(open(scope, id))
    .returning();
  if (!row) return "missing";
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: "withdrew",
    subject: "invitation",
    name: row.name,
    aboutClient: row.onlyClient,
  });
  return "withdrawn";
}

const open = (scope: AgencyScope, id: string) =>
  and(eq(invitations.agencyId, scope.agencyId), eq(invitations.id, id), isNull(invitations.endedAt));

export type InvitationLink = { id: string; agencyId: string; agency: string; email: string; name: string };

/** Whose invitation a link is; null for one that never was, has been used, was withdrawn or has run out. */
export async function findInvitation(token: string, now: number): Promise<InvitationLink | null> {
  const [row] = await rowsOf<{ id: string; agency_id: string; agency: string; email: string; name: string }>(
    sql`select * from estima_invitation(${hashOf(token)}, ${new Date(now).toISOString()})`,
  );
  return row ? { ...row, agencyId: row.agency_id } : null;
}

/** Whether somebody signs in with this address already. */
export async function hasAccount(email: string): Promise<boolean> {
  const rows = await rowsOf<{ id: string }>(sql`select id from users where email = ${email}`);
  return rows.length > 0;
}

/**
 * Takes an invitation: for somebody new with a name and a password, else for the person who is signed in. Gives the
 * person's identifier, or null when the link was used meanwhile or is somebody else's.
 */
export async function acceptInvitation(
  token: string,
  as: { name: string; password: string } | { userId: string; email: string },
  now: number,
): Promise<string | null> {
  const link = await findInvitation(token, now);
  if (!link || ("userId" in as && as.email !== link.email)) return null;
  const hash = "password" in as ? await hashPassword(as.password) : null;
  const scope = { agencyId: link.agencyId };
  return withAgency(scope, async (tx) => {
    // Of two at once the first takes it: the other finds it ended.
    const [row] = await tx
      .update(invitations)
      .set({ endedAt: now, ended: "accepted" })
      .where(and(open(scope, link.id), eq(invitations.tokenHash, hashOf(token))))
      .returning();
    if (!row) return null;
    let userId: string;
    if ("userId" in as) userId = as.userId;
    else {
      const [made] = await tx
        .insert(users)
        .values({ id: newId(), name: as.name, email: row.email, emailVerified: true })
        .onConflictDoNothing()
        .returning({ id: users.id });
      // An account of that address was made meanwhile: its owner signs in and takes it as themselves.
      if (!made) throw new AccountExists();
      userId = made.id;
      await tx
        .insert(accounts)
        .values({ id: newId(), accountId: userId, providerId: "credential", userId, password: hash });
    }
    const { onlyGroup, onlyClient, onlyBranch, role, roleId } = row;
    await addSeat(tx, scope, { userId, onlyGroup, onlyClient, onlyBranch, role, roleId });
    await recordAccountEntry(tx, scope, {
      at: now,
      who: "name" in as ? as.name : row.name,
      action: "joined",
      subject: "seat",
      name: row.name,
      aboutClient: row.onlyClient,
    });
    return userId;
  });
}

/** Somebody has an account of this address already: they sign in instead of choosing a password. */
export class AccountExists extends Error {
  override readonly name = "AccountExists";

  constructor() {
    super("There’s already an account with this address.");
  }
}
