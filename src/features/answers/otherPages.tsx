import { type AnyLanguage, acceptedLanguage } from "@/core/words/languages";
import type { Typeface } from "@/core/words/look";
import { customerWords } from "@/locales/customer";
import type { HtmlResponse } from "@/platform/htmlResponse";
import { CustomerPage } from "@/ui/CustomerPage";
import { customerHtml, languageIn } from "./customerHttp";
import { Wrong } from "./pageForms";
import type { PageView } from "./pageView";

/** The customer's pages beside the answer page: links that lead nowhere, no more messages, their name, what is kept. */

export type Sender = { business: string; colour: string; language: AnyLanguage; typeface?: Typeface };

/** Said where a link leads nowhere. */
function LostPage({ language = "en" }: { language?: AnyLanguage }) {
  const say = customerWords(language);
  return (
    <CustomerPage title={say("title.lost")} business="Estima" colour="#6A2156" language={language}>
      <h1>{say("lost.title")}</h1>
      <p>{say("lost.says")}</p>
    </CustomerPage>
  );
}

/**
 * The page of a link that leads nowhere, in the language that was chosen, or that the browser asks for. `asker` is the
 * request, or the language where it is known.
 */
export function lostPage(
  asker: { url: string; headers: Pick<Headers, "get"> } | AnyLanguage | null,
  status = 404,
): Promise<HtmlResponse> {
  const language =
    asker === null || typeof asker === "string"
      ? asker
      : (languageIn(asker) ?? acceptedLanguage(asker.headers.get("accept-language")));
  return customerHtml(<LostPage language={language ?? "en"} />, status);
}

/** Where links lead of a business that asks no more. */
export function EndedPage({ link: { business, colour, language } }: { link: Sender }) {
  const say = customerWords(language);
  return (
    <CustomerPage title={say("title.ended")} business={business} colour={colour} language={language}>
      <h1>{say("ended.title")}</h1>
      <p>{say("ended.says", { business })}</p>
    </CustomerPage>
  );
}

/** Where a link leads whose time is over. */
export function LatePage({
  link: { business, colour, language },
  days,
  token = null,
  isSent = false,
}: {
  link: Sender;
  days: number;
  /** Of the link, where a link to what was written may be asked for. */
  token?: string | null;
  isSent?: boolean;
}) {
  const say = customerWords(language);
  return (
    <CustomerPage title={say("title.lost")} business={business} colour={colour} language={language}>
      <h1>{say("late.title")}</h1>
      <p>{say("late.says", { days, business })}</p>
      {isSent ? (
        <p className="good" role="status">
          {say("late.sent")}
        </p>
      ) : token ? (
        <form method="post" action={`/a/${token}/again`}>
          <button type="submit">{say("late.again")}</button>
        </form>
      ) : null}
    </CustomerPage>
  );
}

/** The page behind "no more messages": before, after, and after having come back. */
export function OptOutPage({
  business,
  colour,
  language,
  token,
  state,
}: Sender & { token: string; state: "asked" | "out" | "back" }) {
  const say = customerWords(language);
  const heading = say(state === "out" ? "optOut.done" : state === "back" ? "optOut.back" : "optOut.title");
  return (
    <CustomerPage
      title={`${heading} ${business}`}
      business={business}
      colour={colour}
      language={language}
      returns={false}
    >
      {state === "out" ? (
        <>
          <h1>{heading}</h1>
          <p>{say("optOut.doneSays")}</p>
          <form method="post" action={`/u/${token}/back?lang=${language}`}>
            <button type="submit">{say("optOut.mistake")}</button>
          </form>
        </>
      ) : state === "back" ? (
        <>
          <h1>{heading}</h1>
          <p>{say("optOut.backSays")}</p>
        </>
      ) : (
        <>
          <h1>{heading}</h1>
          <p>{say("optOut.says", { business })}</p>
          <form method="post" action={`/u/${token}?lang=${language}`}>
            <button type="submit" className="main">
              {say("optOut.yes")}
            </button>
          </form>
        </>
      )}
    </CustomerPage>
  );
}

/** Where somebody whose name is wrong writes it right. */
export function NamePage({
  business,
  colour,
  language,
  token,
  given,
  family,
  done,
  wrong,
}: Sender & { token: string; given: string; family: string; done: boolean; wrong: string | null }) {
  const say = customerWords(language);
  return (
    <CustomerPage title={say("name.title")} business={business} colour={colour} language={language} returns={false}>
      <h1>{say(done ? "name.done" : "name.title")}</h1>
      <Wrong says={wrong} />
      <form method="post" action={`/a/${token}/name?lang=${language}`}>
        <label htmlFor="given">{say("name.given")}</label>
        <input id="given" name="given" defaultValue={given} maxLength={80} autoComplete="given-name" required />
        <label htmlFor="family">{say("name.family")}</label>
        <input id="family" name="family" defaultValue={family} maxLength={80} autoComplete="family-name" />
        <button type="submit" className="main">
          {say("name.save")}
        </button>
      </form>
    </CustomerPage>
  );
}

/** What the business keeps of its customers, and what they may ask for. */
export function PrivacyPage({ business, colour, language, note }: Sender & { note: string }) {
  const say = customerWords(language);
  return (
    <CustomerPage title={say("privacy.title")} business={business} colour={colour} language={language} returns={false}>
      <h1>{say("privacy.title")}</h1>
      {note.split(/\n{2,}/).map((paragraph) => (
        <p key={paragraph}>{paragraph}</p>
      ))}
    </CustomerPage>
  );
}

/** Somebody's own words, to take them off the business's page: reached by a link that was sent to them. */
export function OwnWordsPage({ view, action, isTaken }: { view: PageView; action: string; isTaken: boolean }) {
  const say = customerWords(view.language);
  const { business, colour, language, answer } = view;
  return (
    <CustomerPage title={say("mine.title")} business={business} colour={colour} language={language} returns={false}>
      <h1>{say("mine.title")}</h1>
      {answer?.words ? <blockquote>{answer.words}</blockquote> : null}
      {answer?.mayShow && answer.words ? (
        <form method="post" action={action}>
          <button type="submit" className="main">
            {say("mine.withdraw")}
          </button>
        </form>
      ) : (
        <p className={isTaken ? "good" : ""} role="status">
          {say("mine.withdrawn")}
        </p>
      )}
    </CustomerPage>
  );
}
