import { customerWords } from "@/locales/customer";
import { CustomerPage } from "@/ui/CustomerPage";
import {
  AsideButton,
  Foot,
  FormOfPage,
  More,
  PrivateForm,
  type Props,
  RateForm,
  ReachForm,
  Send,
  Sites,
  WhoForm,
  Wrong,
} from "./pageForms";
import type { PageView } from "./pageView";

/** The customer's page: plain HTML that needs no script and no framework. Rendered by `http.tsx`. */

/** What the customer sees at their link: the question, or what their rating opens, or the thanks. */
export function AnswerPage(props: Props) {
  const { view } = props;
  const { business, branch, colour, logo, header, portrait, typeface, language, answer, doors } = view;
  const say = customerWords(language);
  const isAsked = !answer?.rating || !doors || props.changing;
  return (
    <CustomerPage
      title={`${say(isAsked ? "title.asked" : "title.thanks")} ${business}`}
      business={business}
      branch={branch}
      colour={colour}
      logo={logo}
      header={header}
      portrait={portrait}
      typeface={typeface}
      language={language}
    >
      {view.isSample ? <p className="sample">{say("page.sample")}</p> : null}
      {isAsked ? (
        <>
          <Question {...props} />
          <Foot view={view} inForm={false} />
        </>
      ) : (
        <FormOfPage {...props}>
          <Answered {...props} rating={answer.rating as number} doors={doors} />
          <Foot view={view} inForm={!view.isSample} />
        </FormOfPage>
      )}
    </CustomerPage>
  );
}

function Question(props: Props) {
  const { view } = props;
  return (
    <>
      <h1>{view.words.question}</h1>
      <p className="soft">{view.words.below}</p>
      <Wrong says={props.wrong} />
      <RateForm view={view} chosen={props.preselect ?? view.answer?.rating ?? null} />
    </>
  );
}

type Opened = Props & { rating: number; doors: NonNullable<PageView["doors"]> };

/** After the rating: the thanks for words, or what the rating opens. */
function Answered(props: Opened) {
  const { view, wrong, doors } = props;
  const { answer, followed, words } = view;
  const say = customerWords(view.language);
  if (answer?.words && !wrong) return <ThanksForWords {...props} said={answer.words} />;
  if (view.waitsForReview && followed.length === 0)
    return (
      <Thanks
        {...props}
        title={words.thanksLater}
        glad={say("private.gladKnow", { branch: view.branch })}
        next={say("sites.ifYouLike")}
      />
    );
  if (followed.length > 0 && !doors.unhappy)
    return (
      <Thanks
        {...props}
        title={words.thanksSite}
        glad={say("private.gladRead", { branch: view.branch })}
        next={say("sites.another")}
      />
    );
  return <Doors {...props} />;
}

function Given({ view, rating }: Opened) {
  const say = customerWords(view.language);
  return (
    <p className="soft">
      {view.question === "two" ? (
        say(rating > 3 ? "rating.saidYes" : "rating.saidNo")
      ) : (
        <>
          <span className="stars" aria-hidden="true">
            {"★".repeat(rating)}
          </span>{" "}
          {say("rating.of5", { rating })}.
        </>
      )}{" "}
      <AsideButton view={view} to="change">
        {say("rating.change")}
      </AsideButton>
    </p>
  );
}

function ThanksForWords(props: Opened & { said: string }) {
  const { view, doors, said } = props;
  const { words, answer } = view;
  const say = customerWords(view.language);
  const offers = doors.sites.length > 0;
  // What was written to the business alone is not offered to the public, whatever the rating is by now.
  const copies = offers && !doors.unhappy && !answer?.hasConcern;
  return (
    <>
      <h1>{doors.unhappy ? words.thanksUnhappy : words.thanksHappy}</h1>
      <Given {...props} />
      {copies ? <p className="soft">{say("sites.ready")}</p> : null}
      <blockquote id="mine">{said}</blockquote>
      {copies ? (
        <p>
          <button type="button" hidden data-copies={say("sites.copied")}>
            {say("sites.copy")}
          </button>
        </p>
      ) : null}
      <WhatBecomesOfThem {...props} />
      {props.isSent ? (
        <p className="good" role="status">
          {say("receipt.sent")}
        </p>
      ) : view.hasMailbox ? (
        <p>
          <Send view={view} to="receipt">
            {say("receipt.offer")}
          </Send>
        </p>
      ) : null}
      {answer?.draftWords ? (
        <section>
          <PrivateForm {...props} />
        </section>
      ) : null}
      {offers ? (
        <section>
          <h2>{say(doors.unhappy ? "sites.alsoPublic" : "sites.othersToo")}</h2>
          <Sites view={view} sites={doors.sites} />
        </section>
      ) : null}
      <More {...props} />
    </>
  );
}

/** What becomes of their words, as far as that is true, and how they get an answer where nobody can write to them yet. */
function WhatBecomesOfThem({ view, doors }: Opened) {
  const { branch, answer } = view;
  const say = customerWords(view.language);
  if (answer?.isDoubtful) return <p>{say("private.saved")}</p>;
  if (!doors.unhappy && !answer?.hasConcern)
    return (
      <>
        <p>{say("private.goesTo", { branch })}</p>
        {view.asksWho ? <WhoForm view={view} /> : null}
      </>
    );
  if (answer?.replyTo)
    return (
      <p>
        {say("private.willWrite", { branch })} {say("private.writesTo", { address: answer.replyTo })}
      </p>
    );
  if (view.isReached) return <p>{say("private.willWrite", { branch })}</p>;
  return (
    <>
      <p>{say("private.willRead", { branch })}</p>
      {view.asksWho ? <WhoForm view={view} /> : <ReachForm view={view} />}
    </>
  );
}

/** The thanks, with a place for words and the sites that are left. */
function Thanks(props: Opened & { title: string; glad: string; next: string }) {
  const { view, doors, title, glad, next } = props;
  // Whoever went to the only site needs no further one.
  const isMore = doors.sites.length > (view.followed.length > 0 ? 1 : 0);
  return (
    <>
      <h1>{title}</h1>
      <Given {...props} />
      <p>{glad}</p>
      <section>
        <PrivateForm {...props} />
      </section>
      {isMore ? (
        <section>
          <h2>{next}</h2>
          <Sites view={view} sites={doors.sites} />
        </section>
      ) : null}
      <More {...props} />
    </>
  );
}

/** The private form and the review sites, in the order that the plan's doors say. */
function Doors(props: Opened) {
  const { view, doors } = props;
  const say = customerWords(view.language);
  const sites = <Sites view={view} sites={doors.sites} />;
  const form = <PrivateForm {...props} />;
  return (
    <>
      <h1>{doors.unhappy ? view.words.unhappy : view.words.happy}</h1>
      <Given {...props} />
      {doors.first === "form" ? (
        <>
          <section>{form}</section>
          {doors.sites.length > 0 ? (
            <section>
              <h2>{say("sites.orPublic")}</h2>
              <p className="soft">{say("sites.free")}</p>
              {sites}
            </section>
          ) : null}
        </>
      ) : (
        <>
          {doors.sites.length > 0 ? (
            <section>
              <h2>{say(doors.first === "both" ? "sites.public" : "sites.others")}</h2>
              <p className="soft">{view.words.invite}</p>
              {sites}
            </section>
          ) : null}
          <section>{form}</section>
        </>
      )}
      <More {...props} />
    </>
  );
}
