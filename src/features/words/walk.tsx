import { and, desc, eq, isNotNull, isNull, or, sql } from "drizzle-orm";
import { legsOf } from "@/core/plans/legs";
import type { PlanRules } from "@/core/plans/planRules";
import { firstLanguage, isLanguage, type Language } from "@/core/words/languages";
import { readKey } from "@/core/words/pieces";
import { plainForText, textParts } from "@/core/words/textParts";
import { type PageMoment, type Stop, type WalkChoice, walkOf } from "@/core/words/walk";
import { type Answer, AnswerPage, type PageView, pageOf, viewOf } from "@/features/answers";
import { type AskContext, type ComposedMessage, composeStep, languageFor, wouldBeAsk } from "@/features/asks";
import { loadSetting, lookAt, type Setting } from "@/features/clients";
import { customerFrame } from "@/features/messaging";
import { NOBODY, type Person } from "@/features/people";
import { findPlan, type Plan } from "@/features/plans";
import { lastAbout, NO_VISIT, type Visit } from "@/features/visits";
import { customerWords } from "@/locales/customer";
import { answerLink, optOutLink } from "@/platform/customerLinks";
import type { Scope, Tx } from "@/platform/database";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { emailPage } from "@/ui/emailPage";
import { markupOf } from "@/ui/markup";
import { WALK_TOKEN, walkPicture } from "./walkPicture";

/** The customer's way: every stop of a plan as the real thing, made by the very code that sends and serves it. */

export type Walk = {
  setting: Setting;
  plan: Plan;
  /** With the changes that are not in force yet. */
  rules: PlanRules;
  stops: Stop[];
  stop: Stop;
  choice: WalkChoice;
  /** The client's own language, and the one that is shown. */
  own: Language;
  language: Language;
  context: AskContext;
  now: number;
};

const realLanguage = (tag: string | null): Language => {
  const language = firstLanguage(tag);
  return isLanguage(language) ? language : "en";
};

/** The way of a plan as `choice` has it; null where the client has no such plan. */
export async function loadWalk(
  tx: Tx,
  scope: Scope,
  planId: string,
  choice: WalkChoice,
  now: number,
): Promise<Walk | null> {
  const plan = await findPlan(tx, scope, planId);
  if (!plan) return null;
  const setting = await loadSetting(tx);
  const rules = plan.draft ?? plan.rules;
  const own = realLanguage(setting.client.language);
  const found = await walker(tx, scope, setting, rules, choice, now);
  const language = choice.language ?? realLanguage(languageFor(found.person, setting));
  const person = { ...found.person, language };
  // The wording that is changed here is the one that is shown, whatever is on trial beside it.
  const asked: Plan = { ...plan, rules: { ...rules, steps: rules.steps.map((step) => ({ ...step, others: [] })) } };
  const ask = { ...wouldBeAsk(found.visit, asked, now), personId: person.id, createdAt: now, token: WALK_TOKEN };
  const context: AskContext = { ask, plan: asked, person, visit: found.visit, guardian: null, along: [] };
  const stops = walkOf(rules);
  const stop = stops.find(({ key }) => key === choice.stop) ?? stops[0];
  return { setting, plan, rules, stops, stop, choice, own, language, context, now };
}

const MADE_UP: Record<Exclude<WalkChoice["who"], "real">, Pick<Person, "given" | "family">> = {
  "made up": { given: "Odette", family: "Marsh" },
  "no family name": { given: "Odette", family: "" },
  // Thirty letters.
  "long name": { given: "Wilhelmina-Bartholomea", family: "Fitzhugh" },
};

/** Who walks: somebody made up, or whoever was here last, after a visit with the chosen service. */
async function walker(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  { begins }: PlanRules,
  { who, service }: WalkChoice,
  now: number,
): Promise<{ person: Person; visit: Visit }> {
  if (who === "real") {
    const [real] = await tx
      .select({ person: people, visit: visits })
      .from(visits)
      .innerJoin(people, eq(people.id, visits.personId))
      .where(
        and(
          eq(visits.clientId, scope.clientId),
          eq(visits.outcome, "finished"),
          service ? eq(visits.serviceId, service) : undefined,
          isNull(people.erasedAt),
          isNull(people.mergedInto),
          isNull(people.guardianId),
          or(isNotNull(people.email), isNotNull(people.phone)),
          sql`${people.given} <> ''`,
        ),
      )
      .orderBy(desc(visits.endsAt))
      .limit(1);
    if (real) return real;
  }
  const services = setting.services.filter(({ neverAsk, retired }) => !neverAsk && !retired);
  const wanted = "services" in begins ? begins.services : [];
  const first = services.find(({ id }) => wanted.includes(id)) ?? services[0];
  const branch = setting.branches[0];
  const visit: Visit = {
    ...NO_VISIT,
    clientId: scope.clientId,
    branchId: branch?.id ?? "",
    serviceId: service ?? first?.id ?? null,
    teamMemberId: setting.team.find(({ retired }) => !retired)?.id ?? null,
    about: await lastAbout(tx, scope),
    endsAt: now,
  };
  const name = MADE_UP[who === "real" ? "made up" : who];
  const reach = { email: "odette@post.example", phone: "+447700900123", phoneTakesTexts: true };
  return { person: { ...NOBODY, ...name, ...reach, clientId: scope.clientId }, visit };
}

/** The words of a message of the way, as they would leave by a channel. */
export function walkMessage(walk: Walk, step: number, by: "text" | "email", token = WALK_TOKEN): ComposedMessage {
  const leg = legsOf(walk.rules).findIndex((one) => one.step === step);
  return composeStep(walk.context, walk.setting, walk.now, step, by, answerLink(token, Math.max(0, leg)));
}

/** A personal answer to a concern, for show: somebody writes each of them anew. */
export function walkLetter(walk: Walk, by: "text" | "email"): ComposedMessage {
  const { setting, context, language } = walk;
  const say = customerWords(language);
  const { given, family } = context.person;
  const body = say("mail.answer", { name: given || family });
  return {
    subject: by === "email" ? say("mail.yourVisit", { business: setting.client.name }) : null,
    body: by === "email" ? body : plainForText(body),
    parts: by === "email" ? null : textParts(plainForText(body)).parts,
    wording: null,
    variant: null,
    language,
    picture: null,
  };
}

/** A personal answer as an email, as it would be handed to the mail server. */
export async function walkLetterMail(walk: Walk) {
  const { subject, body } = walkLetter(walk, "email");
  const { setting, context, language } = walk;
  const { client } = setting;
  const look = lookAt(setting, context.ask.branchId);
  const page = await emailPage(body, {
    ...customerFrame({ ...client, business: client.name, look }, language),
    link: null,
    asksRating: true,
    optOut: null,
    picture: null,
  });
  return { subject: subject ?? client.name, ...page };
}

/** By which channel a message of the way is shown. */
export function shownBy(walk: Walk, step: number): "text" | "email" {
  return walk.choice.by ?? (walk.rules.steps[step].channel === "email" ? "email" : "text");
}

/** An email of the way, byte for byte as it would be handed to the mail server. */
export async function walkMail(walk: Walk, step: number, token = WALK_TOKEN) {
  const words = walkMessage(walk, step, "email", token);
  const { client } = walk.setting;
  const leg = Math.max(
    0,
    legsOf(walk.rules).findIndex((one) => one.step === step),
  );
  const page = await emailPage(words.body, {
    ...customerFrame(
      { ...client, business: client.name, look: lookAt(walk.setting, walk.context.ask.branchId) },
      words.language,
    ),
    link: answerLink(token, leg),
    asksRating: true,
    optOut: optOutLink(token),
    picture: null,
    named: words.picture === null ? null : { url: walkPicture(walk, step, token), alt: words.picture },
  });
  return { subject: words.subject ?? client.name, ...page };
}

const SAID: Record<PageMoment, Partial<Answer> | null> = {
  question: null,
  happy: { rating: 5 },
  unhappy: { rating: 2 },
  later: { rating: 5 },
  "happy words": { rating: 5, words: "…" },
  "unhappy words": { rating: 2, words: "…" },
  would: { rating: 5, words: "…", recommend: 10 },
  undecided: { rating: 4, words: "…", recommend: 7 },
  "would not": { rating: 2, words: "…", recommend: 3 },
  member: null,
};

/** An answer as it would be kept when a page of the way is shown; null where nothing was said yet. */
export function answerAt(
  moment: PageMoment,
  { question, doors }: Pick<PlanRules, "question" | "doors">,
  of: Pick<Answer, "clientId" | "askId" | "personId" | "branchId" | "origin" | "givenAt">,
): Answer | null {
  const said = SAID[moment];
  if (!said) return null;
  const rating = said.rating === 2 ? Math.min(2, doors.threshold) : said.rating;
  return {
    id: "",
    ...of,
    scale: question,
    ratings: [],
    words: null,
    draftWords: null,
    language: null,
    aspects: {},
    recommend: null,
    replyTo: null,
    more: {},
    draftMore: {},
    mayShowAt: null,
    standingLinkId: null,
    isDoubtful: false,
    doubtSettledAt: null,
    isUnread: false,
    wordsAt: null,
    readAt: null,
    readBy: null,
    ...said,
    rating: question === "two" && rating === 2 ? 1 : (rating ?? null),
  };
}

/** What a page of the way shows; `isSample` adds the banner that says so. */
export function walkView(walk: Walk, moment: PageMoment, isSample: boolean, token = WALK_TOKEN): PageView {
  const { context, setting, now, rules } = walk;
  const { clientId, id: askId, branchId } = context.ask;
  const of = { clientId, askId, personId: context.person.id, branchId, origin: "ask" as const, givenAt: now };
  const answer = answerAt(moment, rules, of);
  // Once every message has gone there is nothing that a happy answer could wait for.
  const done = moment === "later" ? 0 : legsOf(rules).length;
  const asked = { ...context, ask: { ...context.ask, done } };
  const view = viewOf({ token, setting, context: asked, answer, followed: [], reviewed: [], now });
  return { ...pageOf(view), isSample };
}

/** A page of the way as it would be served. */
export function walkPage(walk: Walk, moment: PageMoment, isSample: boolean, token = WALK_TOKEN): Promise<string> {
  return markupOf(
    <AnswerPage
      view={walkView(walk, moment, isSample, token)}
      preselect={null}
      wrong={null}
      typed={{}}
      changing={false}
    />,
  );
}

/** The services for which a plan has words of its own, and the languages in which it has some. */
export function variantsOf(rules: PlanRules): { services: string[]; languages: Language[] } {
  const keys = Object.keys(rules.words?.own ?? {}).flatMap((key) => readKey(key) ?? []);
  return {
    services: [...new Set(keys.flatMap(({ serviceId }) => serviceId ?? []))],
    languages: [...new Set(keys.map(({ language }) => language))],
  };
}
