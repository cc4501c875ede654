import type { ButtonHTMLAttributes, ReactNode } from "react";
import { fingerprint, type Typed } from "@/core/answers/change";
import { THREE } from "@/core/answers/recommendation";
import { LANGUAGES, OWN_NAMES } from "@/core/words/languages";
import type { Listing } from "@/features/clients";
import { customerWords } from "@/locales/customer";
import type { PageView } from "./pageView";

/**
 * The forms of the answer page. Each tap is a submit of its own, so that it is kept without script; once there are
 * fields to write in, all of them are one form, so that whatever is tapped, what was written comes along.
 */

export type Props = {
  view: PageView;
  /** The rating of a tap inside the message, which only preselects. */
  preselect: number | null;
  wrong: string | null;
  /** What was in the fields when something was wrong. */
  typed: Typed;
  changing: boolean;
  /** A copy of their words was just asked for. */
  isSent?: boolean;
};

export function Wrong({ says }: { says: string | null | undefined }) {
  return says ? (
    <p className="wrong" role="alert">
      {says}
    </p>
  ) : null;
}

/** What every form carries: the language chosen on the page; for a page without a person the stamp and the blank. */
function Carried({ view }: { view: PageView }) {
  return (
    <>
      {view.isChosen ? <input type="hidden" name="lang" value={view.language} /> : null}
      {view.stamp === null ? null : (
        <>
          <input type="hidden" name="stamp" value={view.stamp} />
          <label className="trap" aria-hidden="true">
            {customerWords(view.language)("page.trap")}
            <input name="website" tabIndex={-1} autoComplete="off" />
          </label>
        </>
      )}
    </>
  );
}

/** The page as one form. Enter in a field presses its first button, which nobody sees. */
export function FormOfPage({ view, children }: Props & { children: ReactNode }) {
  const asksReach = view.answer?.words && !view.answer.replyTo && !view.isReached;
  const onEnter = view.asksWho && view.answer?.words ? "who" : asksReach ? "reach" : "aside";
  return (
    <form
      method="post"
      action={`${view.base}/aside`}
      rel="noopener"
      data-keeps={view.isSample ? undefined : `${view.base}/words`}
    >
      <button type="submit" formAction={`${view.base}/${onEnter}`} hidden tabIndex={-1}>
        {view.business}
      </button>
      <Carried view={view} />
      {children}
    </form>
  );
}

type SendProps = { view: PageView; to: string } & ButtonHTMLAttributes<HTMLButtonElement>;

/** A button of the page that sends something, with all that was written. */
export const Send = ({ view, to, ...rest }: SendProps) => (
  <button type="submit" formAction={`${view.base}/${to}`} {...rest} />
);

/** A button that looks like a link and leads somewhere; what was written is kept for when they come back. */
export const AsideButton = ({ view, to, ...rest }: SendProps) => (
  <Send view={view} to="aside" name="to" value={to} className="link" {...rest} />
);

const RATINGS = [1, 2, 3, 4, 5] as const;

/** The question: stars, faces, or two answers that are kept as 5 and 1. */
export function RateForm({ view, chosen }: { view: PageView; chosen: number | null }) {
  const say = customerWords(view.language);
  if (view.question === "two") {
    const both = [
      { rating: 5, says: say("rating.yes") },
      { rating: 1, says: say("rating.no") },
    ];
    return (
      <form method="post" action={`${view.base}/rate`}>
        <Carried view={view} />
        <div className="sites">
          {both.map(({ rating, says }) => (
            <button
              type="submit"
              key={rating}
              name="rating"
              value={rating}
              className={chosen !== null && chosen > 3 === rating > 3 ? "main" : ""}
            >
              <span>{says}</span>
            </button>
          ))}
        </div>
      </form>
    );
  }
  return (
    <form method="post" action={`${view.base}/rate`}>
      <Carried view={view} />
      <div className="rate">
        {RATINGS.map((rating) => (
          <button
            type="submit"
            key={rating}
            name="rating"
            value={rating}
            className={chosen === rating ? "chosen" : ""}
            aria-label={say("rating.labelled", { rating, word: say(`rating.${rating}`) })}
          >
            {view.question === "faces" ? <Face rating={rating} /> : "★"}
            <span aria-hidden="true">{rating}</span>
          </button>
        ))}
      </div>
      <div className="ends" aria-hidden="true">
        <span>{say("rating.1")}</span>
        <span>{say("rating.5")}</span>
      </div>
      {chosen ? (
        <button type="submit" className="main" name="rating" value={chosen}>
          {say("rating.confirm", { rating: chosen })}
        </button>
      ) : null}
    </form>
  );
}

/** One of five faces, from a mouth that hangs to one that laughs. */
function Face({ rating }: { rating: (typeof RATINGS)[number] }) {
  const bend = (rating - 3) * 4;
  return (
    <svg className="face" viewBox="0 0 36 36" aria-hidden="true">
      <circle cx="18" cy="18" r="15" />
      <path d={`M12.5 13.5v1.5M23.5 13.5v1.5M11 ${24 - bend / 2}q7 ${bend} 14 0`} />
    </svg>
  );
}

/** The review sites, each a button that notes that they went there and sends them on. */
export function Sites({ view, sites }: { view: PageView; sites: readonly Pick<Listing, "id" | "site">[] }) {
  const say = customerWords(view.language);
  return (
    <div className="sites">
      {sites.map((site, index) => (
        <Send
          key={site.id}
          view={view}
          to={`site/${site.id}`}
          formTarget="_blank"
          data-leaves=""
          className={index === 0 && view.doors?.first !== "form" ? "main" : ""}
        >
          <span>{say(view.followed.includes(site.id) ? "sites.again" : "sites.write", { site: site.site })}</span>
          <small>{say("sites.opens", { site: site.site })}</small>
        </Send>
      ))}
    </div>
  );
}

/** "Odette M." where a sentence ends with it: one full stop is enough. */
const inSentence = (name: string) => name.replace(/\.$/, "");

/** Whether their words may be shown on the business's own page; asked where the plan asks for it. */
function MayShow({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  if (!view.more.mayShow) return null;
  return (
    <>
      <input type="hidden" name="asked-show" value="1" />
      <label className="check">
        <input type="checkbox" name="show" value="1" defaultChecked={view.answer?.mayShow ?? false} />
        <span>{view.shownAs ? say("more.show", { name: inSentence(view.shownAs) }) : say("more.showNobody")}</span>
      </label>
    </>
  );
}

/** A field to write in, with the sign of what it showed at first: nothing sent elsewhere meanwhile is overwritten. */
function TextField({ name, most, shows, typed }: { name: string; most: number; shows: string; typed?: string }) {
  return (
    <>
      <input type="hidden" name={`was-${name}`} value={fingerprint(shows)} />
      <textarea id={name} name={name} maxLength={most} defaultValue={typed || shows} />
    </>
  );
}

export function PrivateForm({ view, wrong, typed }: Props) {
  const say = customerWords(view.language);
  const unhappy = view.doors?.unhappy ?? false;
  const { answer } = view;
  return (
    <>
      <Wrong says={wrong} />
      <label htmlFor="words">{unhappy ? view.words.unhappyPrompt : view.words.happyPrompt}</label>
      <TextField name="words" most={5000} shows={answer?.draftWords || answer?.words || ""} typed={typed.words} />
      <MayShow view={view} />
      <Send view={view} to="words" className={unhappy ? "main" : ""}>
        {say("private.send", { business: view.business })}
      </Send>
    </>
  );
}

/** Everything else that the plan asks: each tap is kept at once, and what is written beside it with it. */
export function More({ view, typed }: Props) {
  const say = customerWords(view.language);
  const { more, answer } = view;
  const isAsked = more.aspects.length > 0 || more.recommend !== "not" || more.questions.length > 0;
  const isShown = Boolean(answer?.mayShow && answer.words);
  const takesPhoto = more.photo || Boolean(answer?.hasPhoto);
  if (!isAsked && !isShown && !takesPhoto) return null;
  return (
    <section id="more">
      {isShown ? (
        <>
          <h2>{say("mine.title")}</h2>
          <p className="soft">
            {view.shownAs ? say("mine.shown", { name: inSentence(view.shownAs) }) : say("mine.shownNobody")}
          </p>
          <Send view={view} to="withdraw">
            {say("mine.withdraw")}
          </Send>
        </>
      ) : null}
      {isAsked ? (
        <>
          <h2>{say("more.title")}</h2>
          <Aspects view={view} />
          <Recommend view={view} />
          {more.questions.map((question, index) => (
            <div key={question}>
              <label htmlFor={`q${index}`}>{question}</label>
              <TextField
                name={`q${index}`}
                most={2000}
                shows={answer?.draftMore[question] ?? answer?.more[question] ?? ""}
                typed={typed.more?.[index]}
              />
            </div>
          ))}
          {more.questions.length > 0 ? (
            <Send view={view} to="more">
              {say("more.save")}
            </Send>
          ) : null}
        </>
      ) : null}
      {takesPhoto ? <PhotoForm view={view} /> : null}
    </section>
  );
}

/** A photo for the business alone; one that has arrived can be taken back. */
function PhotoForm({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  const { business } = view;
  return (
    <>
      <label htmlFor="photo">{say("more.photo")}</label>
      {view.answer?.hasPhoto ? (
        <>
          <p className="good" role="status">
            {say("more.photoHere", { business })}
          </p>
          <Send view={view} to="photo" formEncType="multipart/form-data" name="remove" value="1">
            {say("more.photoRemove")}
          </Send>
        </>
      ) : (
        <>
          <p className="soft" id="photo-says">
            {say("more.photoSays", { business })}
          </p>
          <input
            type="file"
            id="photo"
            name="photo"
            accept="image/png,image/jpeg,image/webp,image/avif"
            aria-describedby="photo-says"
          />
          <Send view={view} to="photo" formEncType="multipart/form-data">
            {say("more.photoSend")}
          </Send>
        </>
      )}
    </>
  );
}

function Aspects({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  const given = view.answer?.aspects ?? {};
  return view.more.aspects.map((aspect, index) => (
    <fieldset key={aspect}>
      <legend>{aspect}</legend>
      <div className="five">
        {RATINGS.map((rating) => (
          <Send
            view={view}
            to="more"
            key={rating}
            name="aspect"
            value={`${index}:${rating}`}
            className={given[aspect] === rating ? "chosen" : ""}
            aria-label={`${aspect}: ${say("rating.of5", { rating })}`}
            aria-pressed={given[aspect] === rating}
          >
            {rating}
          </Send>
        ))}
        <Send
          view={view}
          to="more"
          name="aspect"
          value={`${index}:-`}
          className={given[aspect] === null ? "na chosen" : "na"}
          aria-label={`${aspect}: ${say("more.na")}`}
          aria-pressed={given[aspect] === null}
        >
          {say("more.na")}
        </Send>
      </div>
    </fieldset>
  ));
}

function Recommend({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  const { recommend } = view.more;
  const given = view.answer?.recommend ?? null;
  if (recommend === "not") return null;
  const button = (value: number, says: string, label?: string) => (
    <Send
      view={view}
      to="more"
      key={value}
      name="recommend"
      value={value}
      className={given === value ? "chosen" : ""}
      aria-label={label}
      aria-pressed={given === value}
    >
      {says}
    </Send>
  );
  return (
    <fieldset>
      <legend>{say("more.recommend")}</legend>
      {recommend === "three" ? (
        <div className="three">
          {button(THREE.yes, say("more.yes"))}
          {button(THREE.maybe, say("more.maybe"))}
          {button(THREE.no, say("more.no"))}
        </div>
      ) : (
        <>
          <div className="ten">{Array.from({ length: 11 }, (_, value) => button(value, String(value)))}</div>
          <div className="ends" aria-hidden="true">
            <span>{say("more.unlikely")}</span>
            <span>{say("more.likely")}</span>
          </div>
        </>
      )}
    </fieldset>
  );
}

/** Who they are, for a reply; nobody has to say. */
export function WhoForm({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  return (
    <section>
      <h2>{say("who.title")}</h2>
      <Wrong says={view.whoWrong} />
      <label htmlFor="who-name">{say("who.name")}</label>
      <input id="who-name" name="name" maxLength={120} autoComplete="name" />
      <label htmlFor="who-reach">{say("who.reach")}</label>
      <input id="who-reach" name="reach" maxLength={254} autoComplete="email" />
      <Send view={view} to="who">
        {say("who.send")}
      </Send>
    </section>
  );
}

/** An address for an answer, from someone who is known and whom nobody can write to. */
export function ReachForm({ view }: { view: PageView }) {
  const say = customerWords(view.language);
  return (
    <section>
      <h2>{say("who.title")}</h2>
      <p className="soft">{say("private.needsAddress")}</p>
      <Wrong says={view.whoWrong} />
      <label htmlFor="who-reach">{say("who.reach")}</label>
      <input id="who-reach" name="reach" maxLength={254} autoComplete="email" />
      <Send view={view} to="reach">
        {say("who.send")}
      </Send>
    </section>
  );
}

/** Why they see this, other languages, what is kept, a wrong name, and how to hear no more. */
export function Foot({ view, inForm }: { view: PageView; inForm: boolean }) {
  const say = customerWords(view.language);
  const { business, base, optOut } = view;
  const leads = (to: string, href: string, says: string) =>
    inForm ? (
      <AsideButton view={view} to={to}>
        {says}
      </AsideButton>
    ) : (
      <a href={withLanguage(href, view)}>{says}</a>
    );
  return (
    <div className="quiet">
      <p>{say(optOut ? "page.because" : "page.becauseLink", { business })}</p>
      <p className="languages">
        {LANGUAGES.filter((language) => language !== view.language).map((language) =>
          inForm ? (
            <AsideButton key={language} view={view} to={`lang:${language}`} lang={language}>
              {OWN_NAMES[language]}
            </AsideButton>
          ) : (
            <a key={language} href={`${base}?lang=${language}`} lang={language} hrefLang={language}>
              {OWN_NAMES[language]}
            </a>
          ),
        )}
      </p>
      <p className="languages">
        {leads("privacy", `${base}/privacy`, say("page.privacy"))}
        {optOut && view.given ? leads("name", `${base}/name`, say("page.wrongName")) : null}
        {optOut ? leads("stop", optOut, say("optOut.never")) : null}
      </p>
    </div>
  );
}

const withLanguage = (address: string, view: PageView) =>
  view.isChosen ? `${address}?lang=${view.language}` : address;
