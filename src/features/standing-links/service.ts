import { and, asc, desc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import type { Given, Typed } from "@/core/answers/change";
import { openDoors } from "@/core/answers/doors";
import { doorRating } from "@/core/answers/recommendation";
import { readReplyAddress } from "@/core/contacts/replyAddress";
import { NOTHING_MORE } from "@/core/plans/planRules";
import { webAddress } from "@/core/web/address";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { typedText } from "@/core/words/typed";
import {
  type Answer,
  answerOf,
  changeOpenAnswer,
  findOpenAnswer,
  keepAnswerPhoto,
  keepOpenAnswer,
  keepOpenDraft,
  lookOf,
  noteOf,
  openAnswerRules,
  type PageView,
  pageWordsFor,
  photoOf,
  type WrongKey,
} from "@/features/answers";
import { recordEvents } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting, type Setting, todayOf } from "@/features/clients";
import { concernOf } from "@/features/concerns";
import type { Picture } from "@/features/images";
import { canBeWrittenTo, findAddressee, findPerson, personInput, savePerson } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { standingLinks } from "@/schema/standingLinks";

/** Links without a person: made in one click, each with its own counts; their page is the answer page. */

export type StandingLink = typeof standingLinks.$inferSelect;

/** Letters of a token: 12 of 56 without look-alikes, 69 bits. */
const TOKEN_LETTERS = 12;

export const linkInput = z.object({
  name: typedText(60, "Say where it’s used.", "the name"),
  branchId: z.uuid("Choose a branch."),
  teamMemberId: z.union([z.literal("").transform(() => null), z.uuid()]),
});

/** The client's links: those in use first, the latest first. */
export function listLinks(tx: Tx, scope: Scope): Promise<(StandingLink & { doubtful: number })[]> {
  return tx
    .select({
      id: standingLinks.id,
      clientId: standingLinks.clientId,
      branchId: standingLinks.branchId,
      teamMemberId: standingLinks.teamMemberId,
      name: standingLinks.name,
      token: standingLinks.token,
      opened: standingLinks.opened,
      answered: standingLinks.answered,
      wentToSites: standingLinks.wentToSites,
      by: standingLinks.by,
      createdAt: standingLinks.createdAt,
      endedAt: standingLinks.endedAt,
      doubtful: sql<number>`(select count(*)::int from answers a where a.standing_link_id = standing_links.id and a.is_doubtful)`,
    })
    .from(standingLinks)
    .where(eq(standingLinks.clientId, scope.clientId))
    .orderBy(sql`${standingLinks.endedAt} is not null`, desc(standingLinks.createdAt), asc(standingLinks.id));
}

/** One link of the client's, or null. */
export async function findLink(tx: Tx, scope: Scope, id: string): Promise<StandingLink | null> {
  const [link] = await tx
    .select()
    .from(standingLinks)
    .where(and(eq(standingLinks.clientId, scope.clientId), eq(standingLinks.id, id)));
  return link ?? null;
}

/** Makes a link. Null where the branch or the team member is not the client's. */
export async function makeLink(
  tx: Tx,
  scope: Scope,
  who: string,
  it: z.output<typeof linkInput>,
  now: number,
): Promise<StandingLink | null> {
  const { branches, team } = await loadSetting(tx);
  if (!branches.some(({ id }) => id === it.branchId)) return null;
  if (it.teamMemberId && !team.some(({ id }) => id === it.teamMemberId)) return null;
  const [link] = await tx
    .insert(standingLinks)
    .values({ id: newId(), clientId: scope.clientId, ...it, token: newToken(TOKEN_LETTERS), by: who, createdAt: now })
    .returning();
  await noted(tx, scope, who, "added", link, now);
  return link;
}

/** Ends a link: its address leads nowhere from then on, what was answered there stays. False where it has ended. */
export async function endLink(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  const [link] = await tx
    .update(standingLinks)
    .set({ endedAt: now })
    .where(and(eq(standingLinks.clientId, scope.clientId), eq(standingLinks.id, id), isNull(standingLinks.endedAt)))
    .returning();
  if (link) await noted(tx, scope, who, "removed", link, now);
  return Boolean(link);
}

const noted = (tx: Tx, scope: Scope, who: string, action: "added" | "removed", link: StandingLink, now: number) =>
  recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action,
    subject: "standing link",
    subjectId: link.id,
    details: { name: link.name },
  });

/** Whose link an address is; null for one that leads nowhere. */
export async function linkByToken(
  token: string,
): Promise<{ scope: Scope; linkId: string; isArchived: boolean } | null> {
  const [row] = await rowsOf<{ client_id: string; link_id: string; archived: boolean }>(
    sql`select * from estima_standing_link(${token})`,
  );
  return row ? { scope: workFor(row.client_id), linkId: row.link_id, isArchived: row.archived } : null;
}

type Found = { scope: Scope; linkId: string };

/** Adds one to a count of the link. */
const count = (tx: Tx, { scope, linkId }: Found, what: "opened" | "answered" | "went_to_sites") =>
  rowsIn(
    tx,
    sql`update standing_links set ${sql.identifier(what)} = ${sql.identifier(what)} + 1 where client_id = ${scope.clientId} and id = ${linkId}`,
  );

/**
 * What the page of a link shows to whoever gave this answer there (null for nobody yet). `isFirst` counts it as opened.
 */
export async function viewLink(
  found: Found,
  answerId: string | null,
  isFirst: boolean,
  chosen: AnyLanguage | null = null,
): Promise<PageView | null> {
  return withClient(found.scope, async (tx) => {
    const link = await findLink(tx, found.scope, found.linkId);
    if (!link) return null;
    if (isFirst) await count(tx, found, "opened");
    const setting = await loadSetting(tx);
    const answer = answerId ? await ownAnswer(tx, found, answerId) : null;
    if (!answer) return pageOf(setting, link, { answer }, chosen);
    const { scope } = found;
    const writer = answer.personId ? await findPerson(tx, scope, answer.personId) : null;
    const to = writer && (await findAddressee(tx, scope, writer, todayOf(setting, await clockNow())));
    const known = {
      answer: { ...answer, hasConcern: (await concernOf(tx, scope, answer.id)) !== null },
      hasPhoto: (await photoOf(tx, scope, answer.id)) !== null,
      isReached: canBeWrittenTo(to),
    };
    return pageOf(setting, link, known, chosen);
  });
}

/** What the client of a link keeps of its customers and why. */
export async function noteOfLink({ scope }: Found, language: AnyLanguage): Promise<string> {
  return withClient(scope, async (tx) => noteOf(await loadSetting(tx), language));
}

async function ownAnswer(tx: Tx, { scope, linkId }: Found, id: string): Promise<Answer | null> {
  const answer = await findOpenAnswer(tx, scope, id);
  return answer?.standingLinkId === linkId ? answer : null;
}

/** What the page of a link shows, worked out of what is known: the same for the real page and for one to look at. */
export function pageOf(
  setting: Setting,
  link: Pick<StandingLink, "token" | "branchId" | "teamMemberId">,
  it: { answer: (Answer & { hasConcern?: boolean }) | null; hasPhoto?: boolean; isReached?: boolean },
  chosen: AnyLanguage | null = null,
): PageView {
  const { answer, hasPhoto = false, isReached = false } = it;
  const rules = openAnswerRules(setting);
  const member = setting.team.find(({ id }) => id === link.teamMemberId)?.name ?? null;
  const sites = sitesOf(setting, link);
  const branch = setting.branches.find(({ id }) => id === link.branchId)?.name ?? setting.client.name;
  const language = chosen ?? firstLanguage(answer?.language, setting.client.language);
  const question = answer?.scale ?? rules.question;
  const facts = {
    person: { given: "", family: "" },
    business: setting.client.name,
    branch,
    service: "",
    about: null,
    teamMember: member,
  };
  return {
    ...lookOf(setting, link.branchId),
    base: `/s/${link.token}`,
    branch,
    language,
    isChosen: chosen !== null,
    words: pageWordsFor({
      words: rules.words,
      occasion: member ? "member" : "appointment",
      question,
      language,
      serviceId: null,
      facts,
      recommend: answer?.recommend ?? null,
    }),
    given: null,
    shownAs: "",
    question,
    more: rules.more ?? NOTHING_MORE,
    answer: answerOf(answer, hasPhoto),
    followed: [],
    isSample: false,
    doors: answer?.rating
      ? openDoors(
          rules.doors.mode,
          rules.doors.threshold,
          doorRating(rules.more, { ...answer, rating: answer.rating }),
          sites,
          rules.sites.most,
        )
      : null,
    waitsForReview: false,
    optOut: null,
    stamp: null,
    asksWho: answer?.personId === null,
    isReached,
    hasMailbox: false,
  };
}

/** The review pages of the link's branch, in the order in which answers without an ask offer them. */
function sitesOf(setting: Setting, link: Pick<StandingLink, "branchId">) {
  const { order, leftOut = [] } = openAnswerRules(setting).sites;
  const place = (site: string) => (order.indexOf(site) + order.length + 1) % (order.length + 1);
  return setting.listings
    .filter(({ branchId, url }) => branchId === link.branchId && webAddress(url) !== null)
    .filter(({ site }) => !leftOut.includes(site))
    .sort((a, b) => place(a.site) - place(b.site) || a.position - b.position);
}

/** Keeps a rating: another one of whoever answered before, else a new answer. Gives the answer's identifier. */
export async function rateAt(
  found: Found,
  answerId: string | null,
  rating: number,
  isDoubtful: boolean,
  language: AnyLanguage | null,
): Promise<string | null> {
  return withClient(found.scope, async (tx) => {
    const link = await findLink(tx, found.scope, found.linkId);
    if (!link) return null;
    const before = answerId ? await ownAnswer(tx, found, answerId) : null;
    if (before) return (await changeOpenAnswer(tx, found.scope, before, { rating, isDoubtful, language })).id;
    await count(tx, found, "answered");
    return keepOpenAnswer(tx, found.scope, {
      origin: "standing link",
      branchId: link.branchId,
      personId: null,
      rating,
      words: null,
      standingLinkId: link.id,
      isDoubtful,
      language,
    });
  });
}

/** Keeps what whoever answered says beside the rating: words, more questions. False where nobody did. */
export async function moreAt(
  found: Found,
  answerId: string,
  given: Given,
  isDoubtful: boolean | null,
  language: AnyLanguage | null,
  typed: Typed = {},
): Promise<boolean> {
  return withClient(found.scope, async (tx) => {
    const before = await ownAnswer(tx, found, answerId);
    if (before) await changeOpenAnswer(tx, found.scope, before, { ...given, isDoubtful, language }, typed);
    return before !== null;
  });
}

/** Keeps what is in the fields of whoever answered. */
export async function draftAt(found: Found, answerId: string, typed: Typed, mayShow?: boolean): Promise<void> {
  await withClient(found.scope, async (tx) => {
    const before = await ownAnswer(tx, found, answerId);
    if (before) await keepOpenDraft(tx, found.scope, before, typed, mayShow);
  });
}

/** Keeps a photo with the answer, or takes it back; false where nobody answered. */
export async function photoAt(found: Found, answerId: string, picture: Picture | null): Promise<boolean> {
  return withClient(found.scope, async (tx) => {
    const answer = await ownAnswer(tx, found, answerId);
    const { more } = openAnswerRules(await loadSetting(tx));
    if (answer && (more?.photo || picture === null))
      await keepAnswerPhoto(tx, found.scope, answer, picture, await clockNow());
    return answer !== null;
  });
}

/** Keeps who it was that answered, so that the team can write to them; says what is wrong with it, or null. */
export async function whoAt(
  found: Found,
  answerId: string,
  typed: { name: string; reach: string },
  isDoubtful: boolean,
): Promise<WrongKey | null> {
  return withClient(found.scope, async (tx) => {
    const before = await ownAnswer(tx, found, answerId);
    if (!before) return "wrong.tap";
    const { client } = await loadSetting(tx);
    const replyTo = readReplyAddress(typed.reach, client.country);
    if (!replyTo) return "wrong.reach";
    const isEmail = typed.reach.includes("@");
    const values = personInput(client.country).safeParse({
      name: typed.name,
      email: isEmail ? typed.reach : "",
      phone: isEmail ? "" : typed.reach,
    });
    if (!values.success) return "wrong.name";
    const { person } = await savePerson(tx, found.scope, values.data, await clockNow());
    await changeOpenAnswer(tx, found.scope, before, { personId: person.id, replyTo, isDoubtful });
    return null;
  });
}

/** Notes that somebody goes to a review page from the link's page, and gives its address; null for one it does not show. */
export async function siteAt(found: Found, answerId: string | null, listingId: string): Promise<string | null> {
  return withClient(found.scope, async (tx) => {
    const link = await findLink(tx, found.scope, found.linkId);
    const answer = link && answerId ? await ownAnswer(tx, found, answerId) : null;
    if (!link || !answer) return null;
    const setting = await loadSetting(tx);
    const site = pageOf(setting, link, { answer }).doors?.sites.find(({ id }) => id === listingId);
    const listing = setting.listings.find(({ id }) => id === site?.id);
    const address = listing ? webAddress(listing.url) : null;
    if (!address) return null;
    await count(tx, found, "went_to_sites");
    await recordEvents(tx, found.scope, [
      { kind: "site opened", source: "person", at: await clockNow(), askId: null, listingId },
    ]);
    return address;
  });
}
