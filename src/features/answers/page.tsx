import type { Listing } from "@/features/clients";
import { CustomerPage } from "@/ui/CustomerPage";
import type { AnswerView } from "./service";

/** The customer's page: plain HTML that needs no script, no framework and one font. Rendered by `http.ts`. */

const RATING_WORDS = ["Poor", "Not good", "All right", "Good", "Excellent"];

function visitWords({ about, service }: AnswerView["facts"]): string {
  return about ? `${about}’s ${service.toLowerCase()}` : `your ${service.toLowerCase()}`;
}

/** The question with two answers, kept as 5 and 1. */
function TwoAnswers({ view, chosen }: { view: AnswerView; chosen: number | null }) {
  const both = [
    { rating: 5, says: "Yes, it did" },
    { rating: 1, says: "Not really" },
  ];
  return (
    <form method="post" action={`/a/${view.token}/rate`}>
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

function RatingForm({ view, chosen }: { view: AnswerView; chosen: number | null }) {
  return (
    <form method="post" action={`/a/${view.token}/rate`}>
      <div className="rate">
        {RATING_WORDS.map((word, index) => (
          <button
            type="submit"
            key={word}
            name="rating"
            value={index + 1}
            className={chosen === index + 1 ? "chosen" : ""}
            aria-label={`${index + 1} of 5, ${word.toLowerCase()}`}
          >
            ★<span aria-hidden="true">{index + 1}</span>
          </button>
        ))}
      </div>
      <div className="ends" aria-hidden="true">
        <span>poor</span>
        <span>excellent</span>
      </div>
      {chosen ? (
        <button type="submit" className="main" name="rating" value={chosen}>
          Yes, {chosen} of 5
        </button>
      ) : null}
    </form>
  );
}

function Sites({ view, sites }: { view: AnswerView; sites: Listing[] }) {
  return (
    <div className="sites">
      {sites.map((site, index) => (
        <form
          key={site.id}
          method="post"
          action={`/a/${view.token}/site/${site.id}`}
          target="_blank"
          rel="noopener"
          data-leaves=""
        >
          <button type="submit" className={index === 0 && view.doors?.first !== "form" ? "main" : ""}>
            <span>{view.followed.includes(site.id) ? `${site.site} again` : `Write on ${site.site}`}</span>
            <small>opens {site.site}</small>
          </button>
        </form>
      ))}
    </div>
  );
}

function PrivateForm({ view, wrong, typed }: { view: AnswerView; wrong: string | null; typed: string }) {
  const unhappy = view.doors?.unhappy ?? false;
  return (
    <form method="post" action={`/a/${view.token}/words`}>
      {wrong ? (
        <p className="wrong" role="alert">
          {wrong}
        </p>
      ) : null}
      <label htmlFor="words">
        {unhappy ? "What should we put right?" : "Anything you would rather tell us privately?"}
      </label>
      <textarea id="words" name="words" maxLength={5000} defaultValue={typed || view.answer?.words || ""} />
      <button type="submit" className={unhappy ? "main" : ""}>
        Send to {view.facts.business}
      </button>
    </form>
  );
}

type Props = {
  view: AnswerView;
  /** The rating of a tap inside the message, which only preselects. */
  preselect: number | null;
  wrong: string | null;
  typed: string;
  changing: boolean;
};

/** What the customer sees at their link: the question, or what their rating opens, or the thanks. */
export function AnswerPage(props: Props) {
  const { facts, answer, doors, setting } = props.view;
  const isAsked = !answer?.rating || !doors || props.changing;
  return (
    <CustomerPage
      title={`${isAsked ? "How was it?" : "Thank you."} ${facts.business}`}
      business={facts.business}
      branch={facts.branch}
      colour={setting.client.colour}
    >
      {isAsked ? <Question {...props} /> : <Answered {...props} rating={answer.rating as number} doors={doors} />}
    </CustomerPage>
  );
}

const isTwo = ({ answer, context }: AnswerView) => (answer?.scale ?? context.plan.rules.question) === "two";

function Question({ view, preselect, wrong }: Props) {
  const { facts, answer } = view;
  const two = isTwo(view);
  return (
    <>
      <h1>{two ? `Did ${visitWords(facts)} go well?` : `How was ${visitWords(facts)}?`}</h1>
      <p className="soft">
        One tap is enough{facts.person.given ? `, ${facts.person.given}` : ""}. You can add words after it.
      </p>
      {wrong ? (
        <p className="wrong" role="alert">
          {wrong}
        </p>
      ) : null}
      {two ? (
        <TwoAnswers view={view} chosen={preselect ?? answer?.rating ?? null} />
      ) : (
        <RatingForm view={view} chosen={preselect ?? answer?.rating ?? null} />
      )}
      <p className="quiet">
        <a href={`/u/${view.token}`}>Do not write to me again</a>
      </p>
    </>
  );
}

type Opened = Props & { rating: number; doors: NonNullable<AnswerView["doors"]> };

/** After the rating: the thanks for words, or what the rating opens. */
function Answered(props: Opened) {
  const { view, wrong, doors } = props;
  const { answer, followed } = view;
  if (answer?.words && !wrong) return <ThanksForWords {...props} words={answer.words} />;
  if (view.waitsForReview && followed.length === 0)
    return (
      <Thanks {...props} title="Thank you, that is good to hear." glad="to know" next="If you like, tell others" />
    );
  if (followed.length > 0 && !doors.unhappy)
    return (
      <Thanks {...props} title="Thank you, that helps a great deal." glad="to read it" next="Another place to write" />
    );
  return <Doors {...props} />;
}

function Given({ view, rating }: Opened) {
  const two = isTwo(view);
  return (
    <p className="soft">
      {two ? (
        `You said: ${rating > 3 ? "it went well" : "not really"}.`
      ) : (
        <>
          <span className="stars" aria-hidden="true">
            {"★".repeat(rating)}
          </span>{" "}
          {rating} of 5.
        </>
      )}{" "}
      <a href={`/a/${view.token}?change=1`}>Change</a>
    </p>
  );
}

function ThanksForWords(props: Opened & { words: string }) {
  const { view, doors, words } = props;
  const { facts } = view;
  return (
    <>
      <h1>{doors.unhappy ? "Thank you for telling us. We will look into it." : "Thank you for your words."}</h1>
      <Given {...props} />
      <blockquote>{words}</blockquote>
      <p>
        {doors.unhappy
          ? `Somebody at ${facts.branch} reads this today and will write to you.`
          : `They have gone to the team at ${facts.branch}.`}
      </p>
      {doors.sites.length > 0 ? (
        <section>
          <h2>{doors.unhappy ? "You can also write in public" : "Would you tell others too?"}</h2>
          <Sites view={view} sites={doors.sites} />
        </section>
      ) : null}
    </>
  );
}

/** The thanks, with a place for words and the sites that are left. */
function Thanks(props: Opened & { title: string; glad: string; next: string }) {
  const { view, doors, wrong, typed, title, glad, next } = props;
  // Whoever went to the only site needs no further one.
  const isMore = doors.sites.length > (view.followed.length > 0 ? 1 : 0);
  return (
    <>
      <h1>{title}</h1>
      <Given {...props} />
      <p>
        Everyone at {view.facts.branch} will be glad {glad}.
      </p>
      <section>
        <PrivateForm view={view} wrong={wrong} typed={typed} />
      </section>
      {isMore ? (
        <section>
          <h2>{next}</h2>
          <Sites view={view} sites={doors.sites} />
        </section>
      ) : null}
    </>
  );
}

/** The private form and the review sites, in the order that the plan's doors say. */
function Doors(props: Opened) {
  const { view, doors, wrong, typed } = props;
  const sites = <Sites view={view} sites={doors.sites} />;
  const form = <PrivateForm view={view} wrong={wrong} typed={typed} />;
  return (
    <>
      <h1>{doors.unhappy ? "We are sorry it was not better." : "We are glad to hear it."}</h1>
      <Given {...props} />
      {doors.first === "form" ? (
        <>
          <section>{form}</section>
          {doors.sites.length > 0 ? (
            <section>
              <h2>Or write in public</h2>
              <p className="soft">You are free to, whatever you tell us here.</p>
              {sites}
            </section>
          ) : null}
        </>
      ) : (
        <>
          {doors.sites.length > 0 ? (
            <section>
              <h2>{doors.first === "both" ? "Write in public" : "Would you tell others?"}</h2>
              <p className="soft">Two sentences help people choose.</p>
              {sites}
            </section>
          ) : null}
          <section>{form}</section>
        </>
      )}
    </>
  );
}

/** Said where a link leads nowhere. */
export function LostPage() {
  return (
    <CustomerPage title="This link has come to its end" business="Estima" colour="#6A2156">
      <h1>This link has come to its end.</h1>
      <p>
        It may have been cut off on its way, or what it led to is no longer kept. Please open it again from the message
        you got.
      </p>
    </CustomerPage>
  );
}

/** The page behind "no more messages", before and after. */
export function OptOutPage({
  business,
  colour,
  token,
  done,
}: {
  business: string;
  colour: string;
  token: string;
  done: boolean;
}) {
  return (
    <CustomerPage title={`No more messages. ${business}`} business={business} colour={colour}>
      {done ? (
        <>
          <h1>You will get no more emails from us.</h1>
          <p>
            That holds from now on, for every visit. Personal answers to something you wrote to us are still possible.
          </p>
        </>
      ) : (
        <>
          <h1>Shall we stop writing to you?</h1>
          <p>{business} will send you no more questions about your visits.</p>
          <form method="post" action={`/u/${token}`}>
            <button type="submit" className="main">
              Yes, no more messages
            </button>
          </form>
        </>
      )}
    </CustomerPage>
  );
}
