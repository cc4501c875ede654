import { z } from "zod";
import type { Typed } from "@/core/answers/change";
import { isDoubtful } from "@/core/answers/doubt";
import { machineSign } from "@/core/answers/visitor";
import type { AnyLanguage } from "@/core/words/languages";
import {
  AnswerPage,
  asideTo,
  goTo,
  customerHtml as html,
  inLanguage,
  languageIn,
  lostPage,
  MOST_PHOTOS,
  type PageView,
  PrivacyPage,
  readForm,
  readGiven,
  readMayShow,
  readPhoto,
  readTyped,
  type WrongKey,
} from "@/features/answers";
import { customerWords } from "@/locales/customer";
import { clientAddressOf } from "@/platform/clientAddress";
import { realTime } from "@/platform/clock";
import { environment } from "@/platform/environment";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { sameSecret, tagFor } from "@/platform/secrets";
import { visitorOf } from "@/platform/visitor";
import { draftAt, linkByToken, moreAt, noteOfLink, photoAt, rateAt, siteAt, viewLink, whoAt } from "./service";

/**
 * The page of a standing link as plain HTTP: `/s/<token>` with `/rate`, `/words`, `/who` and `/site/<listing>` below it.
 * A cookie remembers the one answer of whoever gave it; a limit for each address keeps one person from giving many.
 */

/** New answers of one address at one link, in an hour of real time. A counter shares its address. */
const MOST_ANSWERS = 12;

/** The answer that this browser gave at the link, as its cookie says; null for none. */
function answerIn(request: Request, token: string): string | null {
  const value = new RegExp(`(?:^|; )estima_s_${token}=([\\w-]+)\\.([\\w-]+)`).exec(request.headers.get("cookie") ?? "");
  return value && sameSecret(value[2], tagFor("standing answer", value[1])) ? value[1] : null;
}

function cookieOf(token: string, answerId: string): string {
  const secure = environment().APP_URL.startsWith("https:") ? "; Secure" : "";
  return `estima_s_${token}=${answerId}.${tagFor("standing answer", answerId)}; Path=/s/${token}; Max-Age=604800; HttpOnly; SameSite=Lax${secure}`;
}

/** To whom a page was shown: its stamp is good for nobody else. */
const readerOf = (request: Request, token: string) => `${token} ${clientAddressOf(request.headers) ?? ""}`;

/** When a page was shown and to whom, so that a form can say how long that was; nobody makes one up. */
const stampOf = (at: number, reader: string) => `${at}.${tagFor("shown at", `${at} ${reader}`)}`;

function shownFor(stamp: string, reader: string): number | null {
  const [at, tag] = stamp.split(".");
  return tag && sameSecret(tag, tagFor("shown at", `${at} ${reader}`)) ? realTime() - Number(at) : null;
}

/** Answers everything under `/s/`. `path` is what follows it. */
export async function handleStandingLink(request: Request, path: string[]): Promise<Response> {
  const token = (path[0] ?? "").slice(0, 40);
  if (!(await isWelcomeClient(request.headers))) return lostPage(request, 429);
  const found = isToken(token) ? await linkByToken(token) : null;
  if (!found || found.isArchived) return lostPage(request, (await mayGuessAgain(request.headers)) ? 404 : 429);
  const answerId = answerIn(request, token);
  const reader = readerOf(request, token);
  const show = async (it: Shown & { status?: number; isFirst?: boolean }) => {
    const view = await viewLink(found, answerId, it.isFirst ?? false, it.chosen);
    return view ? html(pageFor(view, reader, it), it.status ?? 200) : lostPage(request);
  };
  if (request.method === "GET" || request.method === "HEAD") {
    const chosen = languageIn(request);
    if (path[1] === "privacy") return privacyOf(found, chosen);
    if (path.length > 1) return goTo(inLanguage(`/s/${token}`, chosen));
    const changing = new URL(request.url).searchParams.get("change") === "1";
    return show({ changing, isFirst: answerId === null && isPerson(request), chosen });
  }
  if (request.method !== "POST")
    return new Response("Method not allowed", { status: 405, headers: { allow: "GET, HEAD, POST" } });
  if (path[1] === "photo") {
    const mayLook = await isWelcome(`photo ${token} ${answerId}`, MOST_PHOTOS, 3600);
    const { picture, form } = await readPhoto(request, mayLook);
    const chosen = languageIn(request, form);
    if (answerId !== null) await draftAt(found, answerId, readTyped(form), readMayShow(form));
    if (picture === "wrong") return show({ wrong: "wrong.photo", status: 422, chosen });
    if (answerId !== null) await photoAt(found, answerId, picture);
    return goTo(`${inLanguage(`/s/${token}`, chosen)}#more`);
  }
  const form = await readForm(request);
  const chosen = languageIn(request, form);
  if (form === null) return show({ wrong: "wrong.tooLong", status: 413, chosen });
  const field = (name: string) => form.get(name) ?? "";
  const kind = path[1];
  const typed = readTyped(form);
  const isDraft = form.get("as") === "draft";
  if (isDraft || ["aside", "site", "withdraw", "who"].includes(kind)) {
    if (answerId !== null) await draftAt(found, answerId, typed, readMayShow(form));
    if (isDraft) return new Response(null, { status: 204 });
    if (kind === "aside") return goTo(asideTo(form, `/s/${token}`, chosen));
  }
  const step = kind === "rate" ? "tap" : "writing";
  const doubtful = isDoubtful({ step, shownFor: shownFor(field("stamp"), reader), trap: field("website") });
  if (kind === "rate" || kind === "words" || kind === "more") {
    const given = readGiven(kind, form);
    if ("wrong" in given) return show({ wrong: given.wrong, typed, changing: kind === "rate", status: 422, chosen });
    if (given.rating !== undefined) {
      const client = clientAddressOf(request.headers);
      if (answerId === null && client !== null && !(await isWelcome(`s ${token} ${client}`, MOST_ANSWERS, 3600)))
        return show({ wrong: "wrong.enough", status: 429, chosen });
      const id = await rateAt(found, answerId, given.rating, doubtful, chosen);
      return id ? goTo(inLanguage(`/s/${token}`, chosen), cookieOf(token, id)) : lostPage(request);
    }
    if (answerId !== null) await moreAt(found, answerId, given, doubtful, chosen, typed);
    return goTo(inLanguage(`/s/${token}`, chosen) + (kind === "more" ? "#more" : ""));
  }
  if (answerId === null) return goTo(inLanguage(`/s/${token}`, chosen));
  if (kind === "withdraw") {
    await moreAt(found, answerId, { mayShow: false }, null, chosen);
    return goTo(inLanguage(`/s/${token}`, chosen));
  }
  if (kind === "who") {
    const who = { name: field("name").slice(0, 120), reach: field("reach").trim().slice(0, 254) };
    const wrong = await whoAt(found, answerId, who, doubtful);
    return wrong ? show({ whoWrong: wrong, status: 422, chosen }) : goTo(inLanguage(`/s/${token}`, chosen));
  }
  if (kind === "site" && z.uuid().safeParse(path[2]).success) {
    const address = await siteAt(found, answerId, path[2]);
    return address ? goTo(address) : lostPage(request);
  }
  return lostPage(request);
}

type Shown = {
  wrong?: WrongKey | "wrong.enough";
  whoWrong?: WrongKey;
  typed?: Typed;
  changing?: boolean;
  chosen: AnyLanguage | null;
};

function pageFor(view: PageView, reader: string, it: Shown) {
  const say = customerWords(view.language);
  return (
    <AnswerPage
      view={{ ...view, stamp: stampOf(realTime(), reader), whoWrong: it.whoWrong ? say(it.whoWrong) : null }}
      preselect={null}
      wrong={it.wrong ? say(it.wrong) : null}
      typed={it.typed ?? {}}
      changing={it.changing ?? false}
    />
  );
}

async function privacyOf(found: Parameters<typeof viewLink>[0], chosen: AnyLanguage | null): Promise<Response> {
  const view = await viewLink(found, null, false, chosen);
  if (!view) return lostPage(chosen);
  const { business, colour, language } = view;
  return html(
    <PrivacyPage business={business} colour={colour} language={language} note={await noteOfLink(found, language)} />,
  );
}

/** Link previews and scanners open links too, and are not counted. */
const isPerson = (request: Request) =>
  machineSign({ ...visitorOf(request), asksFor: "page", sinceSent: null, sinceOtherLink: null }) === null;
