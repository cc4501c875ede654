import { z } from "zod";
import type { Given, Shown as ShownFields, Typed } from "@/core/answers/change";
import { linksUntil } from "@/core/offboarding/retention";
import { type AnyLanguage, languageOf } from "@/core/words/languages";
import type { AskLink } from "@/features/asks";
import { lookAtOptOut, optBackIn, optOutByLink, optOutOf } from "@/features/messaging";
import { customerWords } from "@/locales/customer";
import { now as clockNow } from "@/platform/clock";
import { HtmlResponse } from "@/platform/htmlResponse";
import { isWelcome } from "@/platform/publicLimit";
import { type Asked, visitorOf } from "@/platform/visitor";
import { customerHtml, goTo, inLanguage, languageIn, readForm } from "./customerHttp";
import { followLink } from "./followLink";
import { mayReachWords, sendLinkToWords, sendReceipt } from "./letters";
import { EndedPage, LatePage, lostPage, NamePage, OptOutPage, OwnWordsPage, PrivacyPage } from "./otherPages";
import { AnswerPage } from "./page";
import { noteOf, pageOf } from "./pageView";
import { keepPhotoBehind, readPhoto } from "./photos";
import {
  followSite,
  keepAnswer,
  keepDraft,
  keepReplyTo,
  mendName,
  nameBehind,
  noteOpened,
  withdrawWords,
} from "./service";
import { type AnswerView, viewAnswer } from "./view";

/**
 * The customer's addresses as plain HTTP: `/a/<token>[.<step>]` with `/rate`, `/words`, `/more`, `/photo`, `/withdraw`,
 * `/reach`, `/receipt`, `/aside`, `/name`, `/privacy` and `/site/<listing>` below it, and `/u/<token>`. A GET changes nothing that concerns the customer; every
 * POST answers with a redirect, so that a reload sends nothing twice.
 */

/** The step of a plan whose message has the link. */
const STEP = /^(?:[0-9]|1[01])$/;
const ratingInput = z.coerce.number().int().min(1).max(5);
const nameInput = z.object({ given: z.string().trim().min(1).max(80), family: z.string().trim().max(80) });

/** What is wrong with a form, as a key of the customers' words. */
export type WrongKey =
  | "wrong.tap"
  | "wrong.words"
  | "wrong.long"
  | "wrong.tooLong"
  | "wrong.photo"
  | "wrong.reach"
  | "wrong.name";

/** As long as an answer to the first question and to another one may be. */
const LONGEST = { words: 5000, more: 2000 };

/** What stands in the fields of a page, whichever button was pressed. */
export function readTyped(form: URLSearchParams): Typed {
  const words = form.get("words")?.slice(0, LONGEST.words);
  const more = [0, 1, 2].map((index) => form.get(`q${index}`)?.slice(0, LONGEST.more));
  const isMore = more.some((text) => text !== undefined);
  return { ...(words === undefined ? {} : { words }), ...(isMore ? { more } : {}), shown: readShown(form) };
}

/** What the fields of a page showed when it was opened, as far as its form says so. */
const readShown = (form: URLSearchParams): ShownFields => ({
  words: form.get("was-words") ?? undefined,
  more: [0, 1, 2].map((index) => form.get(`was-q${index}`) ?? undefined),
});

/** Whether they agree that their words are shown; undefined where they were not asked. */
export const readMayShow = (form: URLSearchParams): boolean | undefined =>
  form.get("asked-show") === "1" ? form.get("show") === "1" : undefined;

/**
 * The part of an answer that a button of the page sends, or what is wrong with it. A button that sends words sends all
 * that was written; one that says something else leaves the words where they are.
 */
export function readGiven(kind: string, form: URLSearchParams): Given | { wrong: WrongKey } {
  const mayShow = readMayShow(form);
  if (kind === "rate") {
    const rating = ratingInput.safeParse(form.get("rating") ?? undefined);
    return rating.success ? { rating: rating.data } : { wrong: "wrong.tap" };
  }
  const given: { -readonly [Key in keyof Given]: Given[Key] } = { shown: readShown(form) };
  if (mayShow !== undefined) given.mayShow = mayShow;
  const isTap = form.has("aspect") || form.has("recommend");
  const words = form.get("words")?.trim() ?? "";
  const more = [0, 1, 2].map((index) => form.get(`q${index}`)?.trim());
  if (words.length > LONGEST.words || more.some((text) => (text?.length ?? 0) > LONGEST.more))
    return { wrong: "wrong.long" };
  if (kind === "words" && words === "" && !more.some(Boolean)) return { wrong: "wrong.words" };
  if (words !== "" && !isTap) given.words = words;
  if (more.some((text) => text !== undefined)) given.more = more;
  const aspect = /^([0-4]):([1-5]|-)$/.exec(form.get("aspect") ?? "");
  if (form.has("aspect") && !aspect) return { wrong: "wrong.tap" };
  if (aspect) given.aspect = { index: Number(aspect[1]), value: aspect[2] === "-" ? null : Number(aspect[2]) };
  if (form.has("recommend")) {
    const value = /^(?:[0-9]|10)$/.exec(form.get("recommend") ?? "")?.[0];
    if (value === undefined) return { wrong: "wrong.tap" };
    given.recommend = Number(value);
  }
  return given;
}

/** Where a button of the page leads that says nothing: another language, another rating, the pages beside it. */
export function asideTo(form: URLSearchParams, base: string, chosen: AnyLanguage | null): string {
  const to = form.get("to") ?? "";
  const language = to.startsWith("lang:") ? languageOf(to.slice(5)) : chosen;
  if (to === "change") return `${base}?change=1${language ? `&lang=${language}` : ""}`;
  if (to === "privacy" || to === "name") return inLanguage(`${base}/${to}`, language);
  return inLanguage(to === "stop" ? base.replace(/^\/a\//, "/u/") : base, language);
}

/** The page at `/a/<token>[.<step>]`; `link` is that part of its address. */
export async function lookAtAnswer(asked: Asked, link: string): Promise<HtmlResponse> {
  const [token, stepText] = partsOf(link);
  const admitted = await admit(asked, token, "a", true);
  if (admitted instanceof HtmlResponse) return admitted;
  if (STEP.test(stepText ?? "")) await noteOpened(admitted.link, Number(stepText), visitorOf(asked));
  const query = new URL(asked.url).searchParams;
  return shownPage(admitted.view, {
    preselect: query.has("r") ? (ratingInput.safeParse(query.get("r")).data ?? null) : null,
    changing: query.get("change") === "1",
    isSent: query.get("sent") === "1",
    chosen: languageOf(query.get("lang")),
  });
}

const partsOf = (link = "") => link.slice(0, 60).split(".");

/** Answers everything under `/a/`. `path` is what follows it. */
export async function handleAnswerRequest(request: Request, path: string[]): Promise<Response> {
  const isLook = request.method === "GET" || request.method === "HEAD";
  if (isLook && path.length === 1) return lookAtAnswer(request, path[0]);
  const [token] = partsOf(path[0]);
  const kind = path[1];
  if (kind === "mine" || kind === "again") return ownWords(request, token, kind);
  const admitted = await admit(request, token, "a");
  if (admitted instanceof Response) return admitted;
  if (isLook) {
    const chosen = languageIn(request);
    if (kind === "name" || kind === "privacy") return besides(token, kind, chosen);
    return goTo(inLanguage(`/a/${token}`, chosen));
  }
  if (request.method !== "POST")
    return new Response("Method not allowed", { status: 405, headers: { allow: "GET, HEAD, POST" } });
  if (kind === "photo") return photo(request, token);
  const form = await readForm(request);
  const chosen = languageIn(request, form);
  if (!form) return page(token, { wrong: "wrong.tooLong", chosen }, 413);
  if (kind === "site" && z.uuid().safeParse(path[2]).success) {
    const address = await followSite(token, path[2]);
    return address ? goTo(address) : lostPage(request);
  }
  const base = `/a/${token}`;
  const typed = readTyped(form);
  if (kind === "aside" || form.get("as") === "draft") {
    await keepDraft(token, typed, readMayShow(form));
    return kind === "aside" ? goTo(asideTo(form, base, chosen)) : new Response(null, { status: 204 });
  }
  if (kind === "name") return mended(token, form, chosen);
  if (kind === "site" || kind === "receipt" || kind === "withdraw" || kind === "reach")
    await keepDraft(token, typed, readMayShow(form));
  if (kind === "reach") {
    const isKept = await keepReplyTo(token, form.get("reach") ?? "");
    return isKept ? goTo(`${inLanguage(base, chosen)}`) : page(token, { whoWrong: "wrong.reach", chosen }, 422);
  }
  if (kind === "receipt")
    return (await sendReceipt(token, chosen))
      ? goTo(`/a/${token}?${new URLSearchParams({ sent: "1", ...(chosen ? { lang: chosen } : {}) })}`)
      : goTo(inLanguage(`/a/${token}`, chosen));
  if (kind === "withdraw")
    return (await withdrawWords(token)) ? goTo(inLanguage(`/a/${token}`, chosen)) : lostPage(request);
  if (kind !== "rate" && kind !== "words" && kind !== "more") return lostPage(request);
  const given = readGiven(kind, form);
  if ("wrong" in given) return page(token, { wrong: given.wrong, typed, changing: kind === "rate", chosen }, 422);
  // Of two answers only two can be given.
  if (given.rating !== undefined && given.rating !== 1 && given.rating !== 5) {
    const view = await viewAnswer(token);
    if (view?.context.plan.rules.question === "two")
      return page(token, { wrong: "wrong.tap", changing: true, chosen }, 422);
  }
  const kept = await keepAnswer(token, given, chosen, typed);
  if (!kept) return lostPage(request);
  return goTo(inLanguage(`/a/${token}`, chosen) + (kind === "more" ? "#more" : ""));
}

/** As many photos as one link takes in an hour of real time. */
export const MOST_PHOTOS = 12;

async function photo(request: Request, token: string): Promise<Response> {
  const { picture, form } = await readPhoto(request, await isWelcome(`photo ${token}`, MOST_PHOTOS, 3600));
  const chosen = languageIn(request, form);
  await keepDraft(token, readTyped(form), readMayShow(form));
  if (picture === "wrong") return page(token, { wrong: "wrong.photo", chosen }, 422);
  const kept = await keepPhotoBehind(token, picture);
  return kept ? goTo(`${inLanguage(`/a/${token}`, chosen)}#more`) : lostPage(request);
}

/**
 * What is left once a link works no more: `/again` sends a link to one's own words to the mailbox that is known, and
 * `/mine` shows them and takes them off the business's page.
 */
async function ownWords(request: Request, token: string, kind: "mine" | "again"): Promise<Response> {
  const admitted = await admit(request, token, "u");
  if (admitted instanceof Response) return admitted;
  const { link } = admitted;
  const query = new URL(request.url).searchParams;
  if (kind === "again") {
    if (request.method !== "POST") return goTo(`/a/${token}`);
    const chosen = languageIn(request, await readForm(request));
    if (!(await isWelcome(`again ${token}`, 5, 3600))) return lostPage(request, 429);
    await sendLinkToWords(token, chosen);
    // Said whatever is kept: whoever has the link learns nothing of it.
    return customerHtml(<LatePage link={link} days={link.linkDays} token={token} isSent />);
  }
  if (!mayReachWords(token, query, await clockNow()))
    return customerHtml(<LatePage link={link} days={link.linkDays} token={token} />, 410);
  const isTaken = request.method === "POST" && (await withdrawWords(token));
  const view = await viewAnswer(token);
  if (!view) return lostPage(request);
  return customerHtml(
    <OwnWordsPage view={pageOf(view, null)} action={`/a/${token}/mine?${query}`} isTaken={isTaken} />,
  );
}

type Admitted = { link: AskLink; view: AnswerView | null };

/** The answer to a link that leads nowhere, or that is asked for too often; what is behind one to be answered. */
async function admit(asked: Asked, token: string, kind: "a" | "u", page = false): Promise<Admitted | HtmlResponse> {
  const followed = await followLink(asked.headers, token, kind, page);
  const lost = (status: number) => lostPage(asked, status);
  if (followed.refused) return lost(followed.refused === "limit" ? 429 : 404);
  const { link, view, now } = followed;
  // No more messages: that can be said for as long as anything is kept.
  if (kind === "a" && link.archivedAt !== null)
    return now < linksUntil(link.archivedAt) ? customerHtml(<EndedPage link={link} />, 410) : lost(404);
  if (kind === "a" && link.worksUntil !== null && now >= link.worksUntil)
    return customerHtml(<LatePage link={link} days={link.linkDays} token={token} />, 410);
  return { link, view };
}

type Shown = {
  wrong?: WrongKey;
  typed?: Typed;
  whoWrong?: WrongKey;
  preselect?: number | null;
  changing?: boolean;
  isSent?: boolean;
  chosen: AnyLanguage | null;
};

const page = async (token: string, shown: Shown, status?: number): Promise<Response> =>
  shownPage(await viewAnswer(token), shown, status);

async function shownPage(view: AnswerView | null, shown: Shown, status = 200): Promise<HtmlResponse> {
  if (!view) return lostPage(shown.chosen);
  const seen = pageOf(view, shown.chosen);
  const say = customerWords(seen.language);
  return customerHtml(
    <AnswerPage
      view={{ ...seen, whoWrong: shown.whoWrong ? say(shown.whoWrong) : null }}
      preselect={shown.preselect ?? null}
      wrong={shown.wrong ? say(shown.wrong) : null}
      typed={shown.typed ?? {}}
      changing={shown.changing ?? false}
      isSent={shown.isSent}
    />,
    status,
  );
}

/** The pages beside the answer: what is kept, and how their name is written. */
async function besides(token: string, kind: "name" | "privacy", chosen: AnyLanguage | null): Promise<Response> {
  const view = await viewAnswer(token);
  if (!view) return lostPage(chosen);
  const { business, colour, language } = pageOf(view, chosen);
  if (kind === "privacy")
    return customerHtml(
      <PrivacyPage business={business} colour={colour} language={language} note={noteOf(view.setting, language)} />,
    );
  const name = await nameBehind(token);
  if (!name) return lostPage(chosen);
  return customerHtml(
    <NamePage
      business={business}
      colour={colour}
      language={language}
      token={token}
      {...name}
      done={false}
      wrong={null}
    />,
  );
}

async function mended(token: string, form: URLSearchParams, chosen: AnyLanguage | null): Promise<Response> {
  const view = await viewAnswer(token);
  if (!view) return lostPage(chosen);
  const { business, colour, language } = pageOf(view, chosen);
  const typed = { given: form.get("given") ?? "", family: form.get("family") ?? "" };
  const name = nameInput.safeParse(typed);
  const sender = { business, colour, language, token };
  if (!name.success) {
    const wrong = customerWords(language)(typed.given.trim() ? "wrong.nameLong" : "wrong.name");
    return customerHtml(<NamePage {...sender} {...typed} done={false} wrong={wrong} />, 422);
  }
  await mendName(token, name.data);
  return customerHtml(<NamePage {...sender} {...name.data} done wrong={null} />);
}

/** Answers `/u/<token>`: a page to confirm on, the one click of RFC 8058, and the way back. */
export async function handleOptOutRequest(request: Request, token: string, then?: string): Promise<Response> {
  const admitted = await admit(request, token, "u");
  if (admitted instanceof Response) return admitted;
  const found = await optOutOf(token);
  if (!found) return lostPage(request);
  const language = languageIn(request) ?? found.language;
  const shown = (state: "asked" | "out" | "back") =>
    customerHtml(<OptOutPage {...found} language={language} token={token} state={state} />);
  if (request.method !== "POST") {
    await lookAtOptOut(token, visitorOf(request));
    return shown(found.done ? "out" : "asked");
  }
  if (then === "back") return shown((await optBackIn(token)) ? "back" : "out");
  await optOutByLink(token);
  return shown("out");
}
