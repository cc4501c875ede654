import { unstable_rethrow } from "next/navigation";
import { z } from "zod";
import type { Permission, PlacePermission } from "@/core/access/permissions";
import {
  type Access,
  type AgencyAccess,
  type AgencyReach,
  type ClientReach,
  requireAccess,
  requireAgency,
  requireSession,
  requireUser,
} from "./access";
import { describeError, log } from "./log";
import { beginAction } from "./requestState";

/**
 * The one way in which a server action is exported. Anyone with a browser's console can call an action with anything:
 * so each says who may run it, what its arguments are, and whether it only reads; the rest holds for all of them. A test
 * refuses an action that is exported without it.
 */

type Session = Awaited<ReturnType<typeof requireSession>>;
type Entered = Awaited<ReturnType<typeof requireUser>>;

/** Whom an action lets in, and what its work is given of them. `Lead` are the arguments that say where. */
export type Gate<E, Lead extends readonly unknown[]> = {
  at: "client" | "agency" | "account" | "signed in" | "anyone";
  permission: Permission | null;
  reach: ClientReach | AgencyReach | null;
  /** The place of a client where it is done, where its permission does not say so. */
  place?: PlacePermission;
  lead: Lead["length"];
  enter: (...lead: Lead) => Promise<E>;
};

/** An address part as it came: whoever calls an action by hand may send anything. */
const slugOf = (slug: unknown) => (typeof slug === "string" ? slug.slice(0, 200) : "");

/**
 * Those with a permission at the client whose address is the first argument: at the branches where they have it, or only
 * at the whole client; and only where they are shown the place in which it is done.
 */
export const atClientWith = (
  permission: Permission,
  reach: ClientReach = "own branches",
  place?: PlacePermission,
): Gate<Access, [slug: string]> => ({
  at: "client",
  permission,
  reach,
  place,
  lead: 1,
  enter: (slug) => requireAccess(slugOf(slug), permission, reach, place ?? null),
});

/**
 * Those with a permission (null: with any seat) at the agency whose address is the first argument: for all of it, or also
 * for a group of its clients.
 */
export const atAgencyWith = (
  permission: Permission | null,
  reach: AgencyReach = "whole agency",
): Gate<AgencyAccess, [slug: string]> => ({
  at: "agency",
  permission,
  reach,
  lead: 1,
  enter: (slug) => requireAgency(slugOf(slug), permission, reach),
});

/** Whoever is signed in, at their own account; not a shared phone. */
export const ownAccount: Gate<Session, []> = {
  at: "account",
  permission: null,
  reach: null,
  lead: 0,
  enter: () => requireSession(),
};

/** Whoever is signed in, a shared phone too. */
export const signedInUser: Gate<Entered, []> = {
  at: "signed in",
  permission: null,
  reach: null,
  lead: 0,
  enter: () => requireUser(),
};

/** Everyone: pages before the sign-in, and links that were mailed. */
export const anyone: Gate<null, []> = {
  at: "anyone",
  permission: null,
  reach: null,
  lead: 0,
  enter: async () => null,
};

/** Text of an argument: an identifier, a token, typed words. What it must be is for the action to say. */
export const text = z.string().max(200_000);

/** A submitted form. */
export const form = z.custom<FormData>((value) => value instanceof FormData);

/** What the form was told before: React passes it, and no action reads it. */
export const before = <T>() => z.custom<T>(() => true);

/** Something with parts, which the action reads by a schema of its own. */
export const given = <T>() => z.custom<T>((value) => typeof value === "object" && value !== null);

type Refusal = { ok: false; message: string };
type Schemas = readonly z.ZodType[];
type In<A extends Schemas> = { -readonly [K in keyof A]: z.input<A[K]> };
type Out<A extends Schemas> = { -readonly [K in keyof A]: z.output<A[K]> };
/** What an action answers: what its work does, or a refusal. */
type Answer<R> = Refusal extends R ? R : undefined extends R ? R : R | Refusal;
type Run<Lead extends readonly unknown[], A extends Schemas, R> = (...all: [...Lead, ...In<A>]) => Promise<R>;

/** What an action says of itself, for the tests that walk all of them. */
export type Declared = Pick<Gate<unknown, []>, "at" | "permission" | "reach" | "place"> & { reads: boolean };

const declared = new WeakMap<object, Declared>();

/** What an exported action says of itself; null for a function that is none. */
export function declaredBy(action: object): Declared | null {
  return declared.get(action) ?? null;
}

const kept = globalThis as typeof globalThis & { estimaUnexpected?: number };

/** How many actions of this process ended in an error that nobody had thought of. Each is in the log. */
export const unexpectedErrors = () => kept.estimaUnexpected ?? 0;

const UNREADABLE: Refusal = { ok: false, message: "This page is out of date. Reload it and try again." };
const UNEXPECTED: Refusal = {
  ok: false,
  message: "Something went wrong on our side. Reload the page to see what was saved, then try again.",
};

function made<E, Lead extends readonly unknown[], A extends Schemas, R>(
  reads: boolean,
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
  otherwise: R | Refusal | undefined,
): Run<Lead, A, R> {
  const run = async (...all: unknown[]): Promise<R> => {
    beginAction();
    try {
      const entered = await gate.enter(...(all.slice(0, gate.lead) as unknown as Lead));
      if (!reads) refuseViewers(entered);
      const parts: unknown[] = [];
      for (const [index, schema] of args.entries()) {
        const read = schema.safeParse(all[gate.lead + index]);
        if (!read.success) return (otherwise === undefined ? UNREADABLE : otherwise) as R;
        parts.push(read.data);
      }
      return await work(entered, ...(parts as Out<A>));
    } catch (error) {
      // Leaving for another page, or "not found", is how an action ends on purpose.
      unstable_rethrow(error);
      kept.estimaUnexpected = unexpectedErrors() + 1;
      log.error(describeError(error), "an action failed");
      return (otherwise === undefined ? UNEXPECTED : otherwise) as R;
    }
  };
  declared.set(run, { at: gate.at, permission: gate.permission, reach: gate.reach, place: gate.place, reads });
  return run;
}

/** Someone who views as another person changes nothing: not in the database, and not beside it (mails, cookies). */
function refuseViewers(entered: unknown): void {
  const { looksOnly } = (entered ?? {}) as { looksOnly?: { refused(): never } };
  looksOnly?.refused();
}

/**
 * An action that changes something. `otherwise` is what it answers, where a refusal is no answer, to arguments that
 * cannot be read and after an error that nobody had thought of.
 *
 * @example export const removeTag = action(atClientWith("set up"), [text], async (access, id): Promise<Done> => { ... });
 */
export function action<E, Lead extends readonly unknown[], const A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
): Run<Lead, A, Answer<R>>;
export function action<E, Lead extends readonly unknown[], const A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
  otherwise: NoInfer<R>,
): Run<Lead, A, R>;
export function action<E, Lead extends readonly unknown[], A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
  otherwise?: R,
): Run<Lead, A, R> {
  return made(false, gate, args, work, otherwise);
}

/** An action that only reads: it also runs for someone who views as another person. */
export function readAction<E, Lead extends readonly unknown[], const A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
): Run<Lead, A, Answer<R>>;
export function readAction<E, Lead extends readonly unknown[], const A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
  otherwise: NoInfer<R>,
): Run<Lead, A, R>;
export function readAction<E, Lead extends readonly unknown[], A extends Schemas, R>(
  gate: Gate<E, Lead>,
  args: A,
  work: (entered: E, ...args: Out<A>) => Promise<R>,
  otherwise?: R,
): Run<Lead, A, R> {
  return made(true, gate, args, work, otherwise);
}
