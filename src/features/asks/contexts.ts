import { and, eq, isNull, sql } from "drizzle-orm";
import { type AskSoFar, type NextStep, nextStep } from "@/core/asks/nextStep";
import { stableHash } from "@/core/stableHash";
import type { WordingFacts } from "@/core/words/compose";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { type Client, calendarOf, type Setting, todayOf } from "@/features/clients";
import { addresseeOf, addressesOf, guardiansOf, type Person, recipientZones } from "@/features/people";
import type { Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { plans, planVersions } from "@/schema/plans";
import { visits } from "@/schema/visits";

export type Ask = typeof asks.$inferSelect;

/** An ask with everything its next step depends on. */
export type AskContext = {
  ask: Ask;
  /** With the rules that this ask goes by. */
  plan: Plan;
  person: Person;
  visit: Visit;
  /** Written to instead, for a minor. */
  guardian: Person | null;
  along: Along[];
};

/** Another visit that an ask names too. */
export type Along = { about: string | null; given: string; personId: string };

/** Whom the messages of an ask go to; for what has been sent or is shown, also where there is nobody to send to now. */
export function writtenTo<Reader extends Pick<Person, "birthDate">>(
  { person, guardian }: { person: Reader; guardian: Reader | null },
  setting: { client: Pick<Client, "zone"> },
  now: number,
): Reader {
  // Nearly everybody: what day it is there takes longer to find than all else here.
  if (!guardian && !person.birthDate) return person;
  return addresseeOf(person, guardian, todayOf(setting, now)) ?? person;
}

/** Loads asks with their plan, person and visit, and locks the ask rows when they are about to change. */
export async function loadContexts(tx: Tx, scope: Scope, askIds: string[], forUpdate = false): Promise<AskContext[]> {
  if (askIds.length === 0) return [];
  const isOne = askIds.length === 1;
  const query = tx
    .select({ ask: asks, person: people, visit: visits, along: alongside })
    .from(asks)
    .innerJoin(people, eq(people.id, asks.personId))
    .innerJoin(visits, eq(visits.id, asks.visitId))
    .where(
      and(
        eq(asks.clientId, sql.placeholder("clientId")),
        isOne ? eq(asks.id, sql.placeholder("id")) : sql`${asks.id} = any(${sql.placeholder("ids")})`,
      ),
    )
    .orderBy(asks.id);
  // Planned once per connection: this join over guarded tables takes longer to plan than to run. One identifier stands
  // alone, since the database would take a list of one for ten and plan it anew each time.
  const name = `${isOne ? "ask" : "asks"}_${forUpdate ? "locked" : "seen"}`;
  const prepared = forUpdate ? query.for("update", { of: asks }).prepare(name) : query.prepare(name);
  const rows = await prepared.execute({
    clientId: scope.clientId,
    ...(isOne ? { id: askIds[0] } : { ids: askIds }),
  });
  if (rows.length === 0) return [];
  const planOf = await plansOf(tx, scope, rows);
  const guardians = await guardiansOf(
    tx,
    rows.map(({ person }) => person),
  );
  return rows.map(({ along, ...row }) => ({
    ...row,
    along: along ?? [],
    plan: planOf(row.ask),
    guardian: guardians.get(row.person.guardianId ?? "") ?? null,
  }));
}

/**
 * The plans of asks, each as one object however many asks it has. An ask goes by the version it was begun with, until
 * somebody moved it to a later one.
 */
async function plansOf(tx: Tx, scope: Scope, rows: readonly { ask: Ask }[]): Promise<(ask: Ask) => Plan> {
  const ids = [...new Set(rows.map(({ ask }) => ask.planId))];
  const versions = [...new Set(rows.map(({ ask }) => ask.planVersion))];
  const found = await tx
    .select({ plan: plans, version: planVersions.version, rules: planVersions.rules })
    .from(plans)
    .leftJoin(
      planVersions,
      and(eq(planVersions.planId, plans.id), sql`${planVersions.version} = any(${sql.placeholder("versions")})`),
    )
    .where(and(eq(plans.clientId, sql.placeholder("clientId")), sql`${plans.id} = any(${sql.placeholder("ids")})`))
    .prepare("plans_of_asks")
    .execute({ clientId: scope.clientId, ids, versions });
  const own = new Map(found.map(({ plan }) => [plan.id, plan]));
  const kept = new Map(
    found.flatMap(({ plan, version, rules }) =>
      version !== null && rules ? [[`${plan.id} ${version}`, { ...plan, rules }] as const] : [],
    ),
  );
  return ({ planId, planVersion }) => (kept.get(`${planId} ${planVersion}`) ?? own.get(planId)) as Plan;
}

/** Other visits of the same day that the ask is about, with whose they are. */
const alongside = sql<
  Along[] | null
>`(select json_agg(json_build_object('about', v.about, 'given', p.given, 'personId', p.id) order by v.ends_at, v.id)
  from visits v join people p on p.id = v.person_id where v.ask_id = ${asks.id} and v.id <> ${asks.visitId})`;

/** Locks asks and tells whether each still runs. Locked in the order of their ids, as everywhere. */
export async function lockAsks(tx: Tx, scope: Scope, askIds: string[]): Promise<Pick<Ask, "id" | "stop" | "ended">[]> {
  if (askIds.length === 0) return [];
  return tx
    .select({ id: asks.id, stop: asks.stop, ended: asks.ended })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, askIds)))
    .orderBy(asks.id)
    .for("update");
}

/** Locks the row of an ask's person, who comes first in the one order: people, asks, messages. */
export async function lockPersonOfAsk(tx: Tx, scope: Scope, askId: string): Promise<void> {
  await tx.execute(
    sql`select p.id from people p where p.client_id = ${scope.clientId}
      and p.id = (select a.person_id from asks a where a.client_id = ${scope.clientId} and a.id = ${askId}) for no key update`,
  );
}

/** Open asks of a person, oldest first. */
export async function openAsksOf(tx: Tx, scope: Scope, personIds: string[]): Promise<Ask[]> {
  if (personIds.length === 0) return [];
  return tx
    .select()
    .from(asks)
    .where(
      and(eq(asks.clientId, scope.clientId), anyOf(asks.personId, personIds), isNull(asks.stop), isNull(asks.ended)),
    )
    .orderBy(asks.createdAt);
}

/**
 * An ask that was begun and of which nothing has left yet: asking by hand brings it forward instead of adding
 * another.
 */
export function isUnsent(ask: Ask): boolean {
  return ask.sentCount === 0;
}

/** The ask as the rules of core see it. */
export function soFar({ ask, plan, person }: Pick<AskContext, "ask" | "plan" | "person">, setting: Setting): AskSoFar {
  return {
    anchorAt: ask.anchorAt,
    done: ask.done,
    lastSentAt: ask.lastSentAt,
    openedAt: ask.openedAt,
    answer:
      ask.answerRating !== null && ask.answeredAt !== null
        ? {
            rating: ask.answerRating,
            at: ask.answeredAt,
            judged: ask.answerJudged,
            recommend: ask.answerRecommend,
          }
        : null,
    spread: ask.isSpread ? { fraction: stableHash(ask.visitId), from: ask.createdAt } : null,
    allowanceFrom: ask.allowanceFrom,
    sendNow: ask.sendNow,
    byHand: ask.byHand,
    chosenChannel: ask.chosenChannel,
    stop: ask.stop,
    retryAt: null,
    hold: ask.heldBy ? "by hand" : plan.state === "paused" ? "plan paused" : null,
    lastToPersonAt: person.lastMessageAt,
    gapMinutes: setting.client.gapMinutes,
  };
}

/** What keeps a message beyond what the ask itself knows. */
export type Delayed = { retryAt?: number; ceilingAt?: number };

/** What an ask does next: the facts of the database handed to the one function that decides. */
export function nextOf(context: AskContext, setting: Setting, now: number, delayed: Delayed = {}): NextStep {
  // Nothing goes to a minor, also when the guardian is lost on the way.
  const to = addresseeOf(context.person, context.guardian, todayOf(setting, now));
  if (!to)
    return context.ask.stop
      ? { kind: "end", outcome: "stopped", stop: context.ask.stop }
      : { kind: "end", outcome: "unreachable" };
  // A guardian's messages keep their distance from those to every ward.
  const lastToPersonAt = latest(context.person.lastMessageAt, to.lastMessageAt);
  return nextStep(
    context.plan.rules,
    {
      ...soFar(context, setting),
      retryAt: delayed.retryAt ?? null,
      ceilingAt: delayed.ceilingAt ?? null,
      lastToPersonAt,
    },
    addressesOf(to, setting.tags),
    calendarOf(setting, context.ask.branchId, now),
    recipientZones(to, setting.client.country),
    now,
  );
}

function latest(a: number | null, b: number | null): number | null {
  return a === null ? b : b === null ? a : Math.max(a, b);
}

type Named = { id: string; name: string };

/** Of an ask and of its client, what the wording speaks of. */
type AskNames = {
  person: Addressee;
  guardian: Addressee | null;
  visit: Pick<Visit, "branchId" | "serviceId" | "teamMemberId" | "about">;
  along?: Along[];
};
type Addressee = Pick<Person, "id" | "given" | "family" | "birthDate" | "language" | "pageLanguage">;
type NamesInSetting = {
  client: Pick<Client, "name" | "zone" | "language" | "keepsMarks">;
  branches: readonly Named[];
  services: readonly Named[];
  team: readonly Named[];
};

/** What the wording of an ask can speak of: a guardian is greeted, and reads of the minor. */
export function wordingFacts(
  { person, visit, guardian, along = [] }: AskNames,
  setting: NamesInSetting,
  now: number,
): WordingFacts {
  const to = writtenTo({ person, guardian }, setting, now);
  const language = firstLanguage(to.language, to.pageLanguage, setting.client.language);
  const nameIn = (list: readonly Named[], id: string | null) => list.find((one) => one.id === id)?.name ?? null;
  return {
    person: to,
    business: setting.client.name,
    branch: nameIn(setting.branches, visit.branchId) ?? setting.client.name,
    service: nameIn(setting.services, visit.serviceId) ?? "visit",
    about: together(
      [
        visit.about ?? (to.id === person.id ? (along.length > 0 ? OWN : null) : person.given),
        ...along.map((other) => other.about ?? (other.personId === to.id ? OWN : other.given)),
      ],
      language,
    ),
    language,
    keepsMarks: setting.client.keepsMarks,
    teamMember: nameIn(setting.team, visit.teamMemberId),
  };
}

/** How English names the visit of whoever reads the message among others: "your own and Ada's lesson". */
const OWN = "your own";

/**
 * "Biscuit", "Biscuit and Pip", "Biscuit, Pip and Juno": everybody an ask is about, each once; null where that is
 * only the person.
 */
function together(names: (string | null)[], language: AnyLanguage): string | null {
  const each = [...new Set(names.filter((name): name is string => name !== null))].sort(
    (a, b) => Number(b === OWN) - Number(a === OWN),
  );
  // Other languages name the others only: "your own" would have to bend with what it is about.
  const said = language === "en" ? each : each.filter((name) => name !== OWN);
  if (said.length === 0 || (said.length === 1 && said[0] === OWN)) return null;
  if (said.length === 1) return said[0];
  if (language === "en") return `${said.slice(0, -1).join(", ")} and ${said.at(-1)}`;
  return new Intl.ListFormat(language).format(said);
}

/** The ask that `plan` would begin about `visit`: for looking ahead, never kept. */
export function wouldBeAsk(visit: Visit, plan: Plan, now: number): Ask {
  return {
    id: visit.id,
    clientId: visit.clientId,
    planId: plan.id,
    planVersion: plan.version,
    personId: visit.personId,
    visitId: visit.id,
    branchId: visit.branchId,
    token: "",
    anchorAt: visit.endsAt,
    byHand: false,
    askedBy: null,
    chosenChannel: null,
    sentCount: 0,
    done: 0,
    firstSentAt: null,
    lastSentAt: null,
    deliveredAt: null,
    openedAt: null,
    followedAt: null,
    optOutSeenAt: null,
    furthest: 0,
    isSpread: false,
    heldBy: null,
    heldAt: null,
    sendNow: null,
    allowanceFrom: null,
    firstSite: null,
    siteWhy: null,
    answerRating: null,
    answerJudged: null,
    answerRecommend: null,
    reviewedAt: null,
    stop: null,
    ended: null,
    endedAt: null,
    answeredAt: null,
    siteFollowedAt: null,
    trace: null,
    createdAt: now,
    requestKey: null,
  };
}
