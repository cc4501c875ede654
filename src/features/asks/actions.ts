"use server";

import { and, desc, eq, gte, inArray, isNotNull, isNull, lte, or, sql } from "drizzle-orm";
import { revalidatePath } from "next/cache";
import { z } from "zod";
import type { TraceLine } from "@/core/asks/findings";
import { isPaused } from "@/core/clients/pause";
import { sayPhone } from "@/core/contacts/phone";
import { isDeskSearch, isFoundAtDesk } from "@/core/people/deskSearch";
import { sayAgo } from "@/core/time/say";
import { DAY, dayNumber, fromLocal, toLocal } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { loadSetting, type Setting, zoneOf } from "@/features/clients";
import {
  findMet,
  findPerson,
  NOBODY,
  nameOf,
  type Person,
  personInput,
  Refused,
  savePerson,
  searchPeople,
} from "@/features/people";
import { NO_VISIT, recordVisit, type Visit } from "@/features/visits";
import { lastTraceSentence, scheduleSentence, traceSentence } from "@/locales/asking";
import type { Access } from "@/platform/access";
import { action, atClientWith, given, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { answerLink } from "@/platform/customerLinks";
import { acrossBranches, type Tx, withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { type ActionResult, refusal } from "@/ui/result";
import { askByHand, considerByHand } from "./byHand";
import { nextOf, wouldBeAsk, writtenTo } from "./contexts";
import { foretellAsks, sayLeaves } from "./foretell";
import { scheduledOf } from "./schedule";
import { composeStep } from "./wording";

const line = (most: number) => z.string().max(most).transform(cleanText);

/** A person to pick, with the visit that an ask would be about. */
export type Candidate = {
  id: string;
  name: string;
  reach: string;
  last: string | null;
  serviceId: string | null;
  branchId: string | null;
  teamMemberId: string | null;
  about: string | null;
  visitId: string | null;
  canText: boolean;
};

/**
 * People to ask: those of the last visits to whom nothing has gone yet, or whoever matches what is typed. A shared phone
 * shows the day's visits at its branch, and of the others those alone of whom four characters or a whole name were typed.
 */
export const findToAsk = readAction(
  atClientWith("ask"),
  [text],
  async (access, typed): Promise<Candidate[]> => {
    const query = line(100).catch("").parse(typed);
    const now = await clockNow();
    return withClient(access, async (tx) => {
      const setting = await loadSetting(tx);
      const found = query.trim() ? await sought(tx, access, query) : await latelyHere(tx, access, setting, now);
      if (found.length === 0) return [];
      const last = await tx
        .selectDistinctOn([visits.personId])
        .from(visits)
        .where(
          and(
            eq(visits.clientId, access.clientId),
            inArray(
              visits.personId,
              found.map(({ id }) => id),
            ),
            lte(visits.endsAt, now),
            inArray(visits.outcome, ["finished", "booked"]),
          ),
        )
        .orderBy(visits.personId, desc(visits.endsAt));
      return found.map((person) =>
        candidate(
          person,
          last.find((visit) => visit.personId === person.id),
          setting,
          now,
        ),
      );
    });
  },
  [],
);

/** At most so many are shown at a shared phone for one search, of those that the search looks at. */
const MOST_AT_PHONE = 8;

/** People by name or address; at a shared phone only those of whom enough was typed. */
async function sought(tx: Tx, access: Access, query: string): Promise<Person[]> {
  if (access.user.phone === undefined) return searchPeople(tx, query, 12);
  if (!isDeskSearch(query)) return [];
  return (await searchPeople(tx, query, 200)).filter((one) => isFoundAtDesk(one, query)).slice(0, MOST_AT_PHONE);
}

/** Whom nothing stands against that a person at the desk could not overrule. */
const askable = and(
  isNull(people.doNotAsk),
  isNull(people.emailOptedOutAt),
  isNull(people.textOptedOutAt),
  or(
    and(isNotNull(people.email), isNull(people.emailBouncedAt)),
    and(eq(people.phoneTakesTexts, true), isNull(people.textBouncedAt)),
  ),
);

/**
 * Those of the last day's visits to whom nothing has gone yet; when there is nobody, the latest who are not being
 * asked.
 */
async function latelyHere(tx: Tx, access: Access, setting: Setting, now: number): Promise<Person[]> {
  const isPhone = access.user.phone !== undefined;
  // Whoever is at a shared phone has the day's visits before them, and no earlier ones.
  const zone = zoneOf(setting, access.branches?.[0]);
  const since = isPhone ? fromLocal(zone, dayNumber(toLocal(zone, now)) * DAY) : now - DAY;
  const base = () =>
    tx
      .select({ person: people })
      .from(visits)
      .innerJoin(people, eq(people.id, visits.personId))
      .leftJoin(asks, eq(asks.visitId, visits.id));
  const own = and(
    eq(visits.clientId, access.clientId),
    lte(visits.endsAt, now),
    inArray(visits.outcome, ["finished", "booked"]),
    askable,
  );
  const waiting = or(
    isNull(visits.decision),
    eq(visits.reason, "plan paused"),
    and(eq(asks.sentCount, 0), isNull(asks.stop), isNull(asks.ended)),
  );
  const fresh = await base()
    .where(and(own, gte(visits.endsAt, since), waiting))
    .orderBy(desc(visits.endsAt))
    .limit(8);
  const rows =
    fresh.length > 0 || isPhone
      ? fresh
      : await base()
          .where(
            and(
              own,
              sql`not exists (select 1 from asks o where o.person_id = ${people.id} and o.stop is null and o.ended is null)`,
            ),
          )
          .orderBy(desc(visits.endsAt))
          .limit(8);
  return [...new Map(rows.map(({ person }) => [person.id, person])).values()];
}

function candidate(person: Person, visit: Visit | undefined, setting: Setting, now: number): Candidate {
  const service = setting.services.find(({ id }) => id === visit?.serviceId)?.name.toLowerCase();
  return {
    id: person.id,
    name: nameOf(person),
    reach: [person.phone && sayPhone(person.phone), person.email].filter(Boolean).join(" · ") || "no address",
    last: visit && service ? `${visit.about ? `${visit.about}, ` : ""}${service}, ${sayAgo(visit.endsAt, now)}` : null,
    serviceId: visit?.serviceId ?? null,
    branchId: visit?.branchId ?? null,
    teamMemberId: visit?.teamMemberId ?? null,
    about: visit?.about ?? null,
    visitId: visit && visit.endsAt > now - 2 * DAY ? visit.id : null,
    canText: person.phoneTakesTexts && !person.textOptedOutAt && !person.textBouncedAt,
  };
}

const askInput = z.object({
  personId: z.union([z.uuid(), z.literal("new")]),
  name: line(200).default(""),
  phone: line(60).default(""),
  email: line(254).default(""),
  serviceId: z.uuid("Choose a service."),
  branchId: z.uuid("Choose a branch."),
  teamMemberId: z.union([z.literal("").transform(() => null), z.uuid()]).nullish(),
  about: z.string().trim().max(60, "Keep this under 60 characters.").transform(cleanText).default(""),
  visitId: z.uuid().nullish(),
  channel: z.enum(["text", "email"]),
  planId: z.union([z.literal("").transform(() => null), z.uuid()]).nullish(),
  requestKey: z.uuid(),
});
export type AskForm = z.input<typeof askInput>;

export type AskPreview =
  | {
      ok: true;
      channel: "text" | "email";
      to: string;
      subject: string | null;
      body: string;
      parts: number | null;
      leaves: string;
      why: string;
      advice: string[];
      instead: string | null;
      afterwards: string;
      /** Plans that could ask instead, and the one that would. */
      plans: { id: string; name: string }[];
      planId: string;
    }
  | { ok: false; message: string; fields?: Record<string, string> };

/** What would be sent to this person, when it would leave and why then. Nothing is kept. */
export const previewAsk = readAction(
  atClientWith("ask"),
  [given<AskForm>()],
  async (access, typed): Promise<AskPreview> => {
    const form = askInput.safeParse(typed);
    if (!form.success) return { ...refusal(form.error), ok: false } as AskPreview;
    const now = await clockNow();
    return withClient(access, async (tx) => {
      const setting = await loadSetting(tx);
      const person = await personOf(tx, access, setting, form.data, now);
      if (!("id" in person)) return person;
      const visit = visitFor(form.data, person.id, access.clientId, now);
      const { plan, choice, unsent, verdict, guardian } = await considerByHand(
        tx,
        access,
        setting,
        visit,
        person,
        now,
        form.data.planId ?? null,
      );
      if (!verdict.asked) return { ok: false, message: refusalWords(person, verdict) };
      if (!plan) return { ok: false, message: "There’s no plan to ask with yet." };
      const ask = { ...wouldBeAsk(visit, plan, now), anchorAt: now, byHand: true, chosenChannel: form.data.channel };
      const context = { ask, plan, person, visit, guardian, along: [] };
      const recipient = writtenTo(context, setting, now);
      const next = nextOf(context, setting, now);
      if (next.kind === "held") return { ok: false, message: "The plan is paused. Resume it under Asking, then ask." };
      if (next.kind !== "send")
        return {
          ok: false,
          message:
            next.outcome === "never open"
              ? "There are no send hours. Set them under Asking."
              : "We have no working address for this person.",
        };
      const words = composeStep(context, setting, now, next.step, next.channel, answerLink("xxxxxxxxxxxxxx", 0));
      const foretold = await foretellAsks(tx, access, setting, [context], unsent ? [unsent.id] : [], now);
      const leavesAt = foretold.get(person.id) ?? next.at;
      const paused = isPaused(setting.client, now);
      return {
        ok: true,
        channel: next.channel,
        to: next.channel === "email" ? (recipient.email ?? "") : sayPhone(recipient.phone ?? ""),
        ...words,
        leaves: paused ? "when everything is resumed" : sayLeaves(setting, visit.branchId, leavesAt, now),
        why: scheduleSentence(scheduledOf(context, setting, next, now)),
        advice: [...(paused ? ["Everything is paused"] : []), ...verdict.advice.map(traceSentence)],
        instead: unsent ? "An ask was planned for later; it’ll go out now instead." : null,
        plans: choice.map(({ id, name }) => ({ id, name })),
        planId: plan.id,
        afterwards:
          plan.rules.steps.length > 1
            ? `If there’s no answer, ${plan.rules.steps.length - 1 === 1 ? "one follow-up goes" : `${plan.rules.steps.length - 1} follow-ups go`} out later.`
            : "No follow-ups.",
      };
    });
  },
);

/** Asks this person. The same request key asks once, however often it is sent. */
export const confirmAsk = action(
  atClientWith("ask"),
  [given<AskForm>()],
  async (access, typed): Promise<Exclude<ActionResult, null> & { personId?: string }> => {
    const form = askInput.safeParse(typed);
    if (!form.success) return refusal(form.error);
    const now = await clockNow();
    const result = await withClient(access, async (tx) => {
      const setting = await loadSetting(tx);
      if (!areChoicesOfClient(setting, form.data))
        return {
          ok: false as const,
          message: "This service or branch has been removed. Close this and open it again.",
        };
      let person: Person | null;
      if (form.data.personId === "new") {
        const values = personInput(setting.client.country).safeParse(form.data);
        if (!values.success) return refusal(values.error);
        // Whoever is known at another branch is not added once more.
        person = (await acrossBranches(tx, () => savePerson(tx, access, values.data, now))).person;
      } else person = await findPerson(tx, access, form.data.personId);
      if (!person) return { ok: false as const, message: "This person has been removed." };
      const personId = person.id;
      const [known] = form.data.visitId
        ? await tx
            .select()
            .from(visits)
            .where(
              and(
                eq(visits.clientId, access.clientId),
                eq(visits.id, form.data.visitId),
                eq(visits.personId, personId),
              ),
            )
        : [];
      const visit =
        known ??
        (await recordVisit(
          tx,
          access,
          access.user.name,
          { ...form.data, personId, endsAt: now, outcome: "finished", about: form.data.about },
          now,
          "asked by hand",
        ));
      const asked = await acrossBranches(tx, () =>
        askByHand(tx, access, {
          visit: { ...visit, outcome: visit.outcome === "booked" ? "finished" : visit.outcome },
          channel: form.data.channel,
          who: access.user.name,
          requestKey: form.data.requestKey,
          planId: form.data.planId ?? null,
          now,
        }),
      );
      // Nothing is kept of an ask that was refused, not even the visit.
      if ("refused" in asked) throw new Refused(refusalWords(person, asked.refused));
      return { ok: true as const, message: `${nameOf(person)} will be asked.`, personId };
    }).catch((error: unknown) => {
      if (error instanceof Refused) return { ok: false as const, message: error.message };
      throw error;
    });
    if (result.ok) revalidatePath(`/c/${access.seat.slug}`, "layout");
    return result;
  },
);

function areChoicesOfClient(setting: Setting, form: z.output<typeof askInput>): boolean {
  return (
    setting.services.some(({ id }) => id === form.serviceId) &&
    setting.branches.some(({ id }) => id === form.branchId) &&
    (!form.teamMemberId || setting.team.some(({ id }) => id === form.teamMemberId))
  );
}

async function personOf(
  tx: Tx,
  access: Access,
  setting: Setting,
  form: z.output<typeof askInput>,
  now: number,
): Promise<Person | Extract<AskPreview, { ok: false }>> {
  if (form.personId !== "new") {
    const [person] = await tx
      .select()
      .from(people)
      .where(and(eq(people.clientId, access.clientId), eq(people.id, form.personId)));
    return person ?? { ok: false, message: "This person has been removed." };
  }
  const values = personInput(setting.client.country).safeParse(form);
  if (!values.success) return { ...refusal(values.error), ok: false } as Extract<AskPreview, { ok: false }>;
  const { email, phone, given, family } = values.data;
  // Somebody else of a household with one phone is somebody new.
  const known = await acrossBranches(tx, () => findMet(tx, access, values.data, now));
  return (
    known ?? {
      ...NOBODY,
      id: form.requestKey,
      clientId: access.clientId,
      given,
      family,
      email,
      phone: phone?.number ?? null,
      phoneTakesTexts: phone?.canText ?? false,
      createdAt: now,
    }
  );
}

function visitFor(form: z.output<typeof askInput>, personId: string, clientId: string, now: number): Visit {
  return {
    ...NO_VISIT,
    id: form.requestKey,
    clientId,
    personId,
    branchId: form.branchId,
    serviceId: form.serviceId,
    teamMemberId: form.teamMemberId ?? null,
    about: form.about || null,
    endsAt: now,
    source: "asked by hand",
    createdAt: now,
    requestKey: form.requestKey,
  };
}

function refusalWords(person: Person, { trace }: { trace: readonly TraceLine[] }): string {
  return `${nameOf(person)} can’t be asked. ${lastTraceSentence(trace)}`;
}
