import { and, eq, isNull, sql } from "drizzle-orm";
import type { EligibilityCase } from "@/core/asks/eligibility";
import { homeOf, joinable } from "@/core/asks/sharedDay";
import { isMinor } from "@/core/people/households";
import { DAY, dayNumber, toLocal } from "@/core/time/zone";
import { allowanceOf, monthOf, type Setting, todayOf, usageOf, zoneOf } from "@/features/clients";
import { addresseeOf, addressesOf, guardiansOf, nameOf, type Person, wishesOf } from "@/features/people";
import type { Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { people } from "@/schema/people";

/** An ask as far as others of its person and household depend on it. */
export type KnownAsk = {
  id: string;
  open: boolean;
  endsAt: number;
  branchId: string;
  soFar: { done: number; byHand: boolean };
  plan: { id: string };
  person: { id: string; name: string };
};

export type ExaminedVisit = Pick<Visit, "outcome" | "endsAt" | "serviceId" | "branchId" | "tags">;

/**
 * People who share this are one household: those a person confirmed, else the wards of a guardian with the guardian.
 */
export function homeKeyOf({ id, householdId, guardianId }: Pick<Person, "id" | "householdId" | "guardianId">): string {
  return householdId ?? guardianId ?? id;
}

/**
 * Whoever decides about people of a household waits for whoever else does. Locked by name and not by row, so that it
 * never crosses those who send, who lock asks first and people after them.
 */
export async function lockHomes(
  tx: Tx,
  scope: Scope,
  persons: readonly Pick<Person, "id" | "householdId" | "guardianId">[],
): Promise<void> {
  const keys = [...new Set(persons.map((person) => `home ${scope.clientId} ${homeKeyOf(person)}`))].sort();
  if (keys.length > 0)
    await tx.execute(
      sql`select pg_advisory_xact_lock(h) from (select distinct hashtextextended(k, 0) as h from unnest(${sql.param(keys)}::text[]) k order by 1) ordered`,
    );
}

/** What `examine` has to know beside the visit and the person; kept up as decisions are made. */
export class EligibilityFacts {
  private readonly asks = new Map<string, KnownAsk>();
  private readonly openOf = new Map<string, KnownAsk>();
  private readonly homes = new Map<string, KnownAsk[]>();
  private readonly lastAsked = new Map<string, { planId: string; byHand: boolean; at: number }[]>();
  private readonly guardians = new Map<string, Person>();
  private readonly seen = new Set<string>();
  /** False when nobody is begun with, because the month's messages are used up. */
  allowanceLeft = true;

  private constructor(
    private readonly setting: Setting,
    private readonly now: number,
  ) {}

  static async load(
    tx: Tx,
    scope: Scope,
    setting: Setting,
    persons: readonly Person[],
    about: readonly { endsAt: number }[],
    now: number,
  ): Promise<EligibilityFacts> {
    const all = new EligibilityFacts(setting, now);
    if (setting.client.leavesOutWhenUsedUp) {
      const usage = await usageOf(tx, scope, monthOf(setting, now));
      const isUsedUp = (channel: "text" | "email") => {
        const most = allowanceOf(setting, channel);
        return most !== null && usage[channel].used >= most;
      };
      all.allowanceLeft = !(isUsedUp("text") && isUsedUp("email"));
    }
    await all.loadMore(tx, scope, persons, about);
    return all;
  }

  /** Learns about more people. Open asks are locked, so that one which another visit joins does not leave meanwhile. */
  async loadMore(
    tx: Tx,
    scope: Scope,
    persons: readonly Person[],
    about: readonly { endsAt: number }[],
  ): Promise<void> {
    const fresh = persons.filter(({ id }) => !this.seen.has(id));
    if (fresh.length === 0) return;
    for (const { id } of fresh) this.seen.add(id);
    for (const [id, guardian] of await guardiansOf(tx, fresh)) this.guardians.set(id, guardian);
    const homes = [...new Set(fresh.flatMap(({ householdId, guardianId }) => householdId ?? guardianId ?? []))];
    const mates =
      homes.length > 0
        ? await tx
            .select({ id: people.id })
            .from(people)
            .where(
              and(
                eq(people.clientId, scope.clientId),
                sql`(${people.householdId} = any(${sql.param(homes)}::uuid[]) or ${people.guardianId} = any(${sql.param(homes)}::uuid[]))`,
              ),
            )
        : [];
    const wards = await tx
      .select({ id: people.id })
      .from(people)
      .where(
        and(
          anyOf(
            people.guardianId,
            fresh.map(({ id }) => id),
          ),
          isNull(people.householdId),
        ),
      );
    const ids = [...new Set([...fresh, ...mates, ...wards].map(({ id }) => id))];
    const times = about.map(({ endsAt }) => endsAt);
    const [from, to] =
      times.length > 0 ? [Math.min(...times) - 2 * DAY, Math.max(...times) + 2 * DAY] : [this.now, this.now];
    await tx.execute(
      sql`select id from asks where client_id = ${scope.clientId} and person_id = any(${sql.param(ids)}::uuid[]) and stop is null and ended is null order by id for update`,
    );
    const rows = await rowsIn<{
      id: string;
      open: boolean;
      ends_at: string;
      branch_id: string;
      done: number;
      by_hand: boolean;
      plan_id: string;
      person_id: string;
      given: string;
      family: string;
      household_id: string | null;
      guardian_id: string | null;
      leaving: boolean;
    }>(
      tx,
      sql`select a.id, a.stop is null and a.ended is null as open, v.ends_at, a.branch_id, a.done, a.by_hand, a.plan_id, a.person_id,
            p.given, p.family, p.household_id, p.guardian_id,
            exists (select 1 from messages m where m.client_id = a.client_id and m.ask_id = a.id and m.state = 'sending') as leaving
          from asks a join visits v on v.id = a.visit_id join people p on p.id = a.person_id
          where a.client_id = ${scope.clientId} and a.person_id = any(${sql.param(ids)}::uuid[])
            and ((a.stop is null and a.ended is null) or (v.ends_at >= ${new Date(from).toISOString()} and v.ends_at <= ${new Date(to).toISOString()}))
          order by a.created_at, a.id`,
    );
    for (const row of rows) {
      this.add(
        { id: row.person_id, householdId: row.household_id, guardianId: row.guardian_id },
        {
          id: row.id,
          open: row.open,
          endsAt: new Date(row.ends_at).getTime(),
          branchId: row.branch_id,
          // What is being handed over this moment cannot take another visit in.
          soFar: { done: row.leaving ? Math.max(1, row.done) : row.done, byHand: row.by_hand },
          plan: { id: row.plan_id },
          person: { id: row.person_id, name: nameOf(row) },
        },
      );
    }
    const asked = await rowsIn<{ person_id: string; plan_id: string; by_hand: boolean; at: string }>(
      tx,
      sql`select person_id, plan_id, by_hand, max(first_sent_at) as at from asks
          where client_id = ${scope.clientId} and person_id = any(${sql.param(fresh.map(({ id }) => id))}::uuid[]) and first_sent_at is not null group by 1, 2, 3`,
    );
    for (const { person_id, plan_id, by_hand, at } of asked)
      this.lastAsked.set(person_id, [
        ...(this.lastAsked.get(person_id) ?? []),
        { planId: plan_id, byHand: by_hand, at: new Date(at).getTime() },
      ]);
  }

  /** Notes an ask, also one that was only now begun. */
  add(person: Pick<Person, "id" | "householdId" | "guardianId">, ask: KnownAsk): void {
    if (this.asks.has(ask.id)) return;
    this.asks.set(ask.id, ask);
    if (ask.open) this.openOf.set(person.id, ask);
    const key = this.dayKey(person, ask);
    this.homes.set(key, [...(this.homes.get(key) ?? []), ask]);
  }

  private dayKey(
    person: Pick<Person, "id" | "householdId" | "guardianId">,
    visit: { branchId: string; endsAt: number },
  ): string {
    const zone = zoneOf(this.setting, visit.branchId);
    return `${homeKeyOf(person)} ${dayNumber(toLocal(zone, visit.endsAt))}`;
  }

  guardianOf(person: Person): Person | null {
    return this.guardians.get(person.guardianId ?? "") ?? null;
  }

  openAskOf(person: Person): KnownAsk | null {
    return this.openOf.get(person.id) ?? null;
  }

  /** The ask that a visit would join. */
  joinable(plan: Plan, person: Person, visit: ExaminedVisit): KnownAsk | null {
    return joinable(this.homes.get(this.dayKey(person, visit)) ?? [], plan.id);
  }

  /** The facts that the rules look at. `hasOpenAsk` overrides what is known of open asks. */
  forVisit(
    plan: Plan | null,
    alsoTakenBy: readonly string[],
    visit: ExaminedVisit,
    person: Person,
    hasOpenAsk: boolean | null = null,
  ): EligibilityCase {
    const { setting, now } = this;
    const today = todayOf(setting, now);
    const service = setting.services.find((one) => one.id === visit.serviceId);
    const guardian = this.guardianOf(person);
    const addressee = addresseeOf(person, guardian, today);
    const open = this.openAskOf(person);
    const outcome = visit.outcome === "booked" && setting.client.bookedCountsAsFinished ? "finished" : visit.outcome;
    const own = (this.lastAsked.get(person.id) ?? [])
      .filter(({ planId, byHand }) => byHand || planId === plan?.id)
      .map(({ at }) => at);
    return {
      now,
      visit: {
        outcome,
        endsAt: visit.endsAt,
        service: { name: service?.name ?? "none named", neverAsk: service?.neverAsk ?? false },
      },
      person: {
        doNotAsk: person.doNotAsk,
        tags: [...person.tags, ...visit.tags],
        neverTags: setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name),
        isMinor: isMinor(person.birthDate, today),
        hasGuardian: guardian !== null,
        restUntil: person.restUntil,
        addresses: addressesOf(addressee ?? person, setting.tags),
        lastAskedAt: person.lastAskedAt,
        lastAskedByPlanAt: own.length > 0 ? Math.max(...own) : null,
        lastReviewedAt: person.lastReviewedAt,
        hasOpenAsk: hasOpenAsk ?? open !== null,
        home: homeOf(this.homes.get(this.dayKey(person, visit)) ?? [], plan?.id ?? null, person.id, open),
        consent: person.consent?.given ?? null,
        guardian: addressee && addressee.id !== person.id ? wishesOf(addressee) : null,
      },
      plan: plan && {
        name: plan.name,
        running: plan.state === "running",
        rules: { ...plan.rules, asksAgain: plan.rules.begins.kind === "put right" },
        alsoTakenBy,
      },
      client: {
        restDays: setting.client.restDays,
        needsConsent: setting.client.needsConsent,
        allowanceLeft: this.allowanceLeft,
      },
    };
  }
}
