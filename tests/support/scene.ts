import { eq } from "drizzle-orm";
import { decideVisits } from "@/features/asks";
import { type PersonValues, savePerson } from "@/features/people";
import { recordVisit, type VisitValues } from "@/features/visits";
import { setDemoClock } from "@/platform/clock";
import { type Scope, withClient, workFor } from "@/platform/database";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";
import { doAllDue } from "@/worker/due";
import type { Harness, TestClient } from "./harness";

/** The Tuesday on which the tests play. */
export const TUESDAY = Date.UTC(2026, 10, 24, 14, 5);

let number = 100;

/** What the tests of one client do again and again. The clock stands wherever it is put. */
export class Scene {
  readonly scope: Scope;

  constructor(
    readonly harness: Harness,
    readonly client: TestClient,
  ) {
    this.scope = workFor(client.id);
  }

  async moveTo(at: number): Promise<void> {
    this.harness.town.clock.set(at, true);
    await setDemoClock(at, at);
  }

  /** Moves the clock and does all that is due there, receipts included. */
  async advance(to: number): Promise<void> {
    await this.moveTo(to);
    await doAllDue();
    await this.harness.town.settled(true);
  }

  /** Changes one part of the rules of the client's plan, in force from now on. */
  async setRules(part: string, value: unknown): Promise<void> {
    for (const table of ["plans", "plan_versions"])
      await this.harness.owner.query(
        `update ${table} set rules = jsonb_set(rules, $2::text[], $3::jsonb) where client_id = $1`,
        [this.client.id, `{${part}}`, JSON.stringify(value)],
      );
  }

  /** A person nobody has met, reachable by text and email unless changed. */
  person(change: Partial<PersonValues> = {}): PersonValues {
    const n = number++;
    return {
      given: "Odette",
      family: `Marsh${n}`,
      email: `odette${n}@post.example`,
      phone: { number: `+447700900${n}`, canText: true, country: "GB" },
      note: "",
      doNotAsk: null,
      ...change,
    };
  }

  addPerson(change: Partial<PersonValues> = {}, now = TUESDAY) {
    return withClient(this.scope, async (tx) => (await savePerson(tx, this.scope, this.person(change), now)).person);
  }

  /** Records a visit of somebody and lets the plan decide. */
  async visit(personId: string, change: Partial<VisitValues> = {}, now = TUESDAY) {
    return withClient(this.scope, async (tx) => {
      const values = {
        personId,
        serviceId: this.client.serviceId,
        branchId: this.client.branchId,
        about: "Biscuit",
        endsAt: now,
        outcome: "finished" as const,
        requestKey: newId(),
        ...change,
      };
      const visit = await recordVisit(tx, this.scope, "Maud", values, now);
      if (visit.endsAt <= now) await decideVisits(tx, this.scope, [visit.id], now);
      return visit;
    });
  }

  async finishVisit(change: Partial<PersonValues> = {}, now = TUESDAY) {
    const person = await this.addPerson(change, now);
    return { person, visit: await this.visit(person.id, {}, now) };
  }

  messagesOf(personId: string) {
    return withClient(this.scope, (tx) =>
      tx
        .select()
        .from(messages)
        .where(eq(messages.personId, personId))
        .orderBy(messages.createdAt, messages.step, messages.dueAt),
    );
  }

  async askOf(personId: string) {
    return (
      await withClient(this.scope, (tx) =>
        tx.select().from(asks).where(eq(asks.personId, personId)).orderBy(asks.createdAt),
      )
    )[0];
  }
}

/** A form sent the way a browser without script sends it. */
export function post(address: string, fields: Record<string, string>): Promise<Response> {
  return fetch(address, { method: "POST", body: new URLSearchParams(fields), redirect: "manual" });
}

/** An instant as ISO 8601 text, for what a failure shows. */
export function isoOf(at: number | null): string | null {
  return at === null ? null : new Date(at).toISOString();
}
