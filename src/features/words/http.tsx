import type { PageMoment } from "@/core/words/walk";
import { AnswerPage, customerHtml, goTo, lostPage } from "@/features/answers";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { CustomerPage } from "@/ui/CustomerPage";
import { type Preview, previewBehind } from "./samples";
import { loadWalk, shownBy, type Walk, walkLetterMail, walkMail, walkMessage, walkPage, walkView } from "./walk";
import { WALK_TOKEN, walkPicture } from "./walkPicture";

/**
 * What somebody outside sees of a customer's way: `/a/1…`, the page behind a sample, which keeps nothing; `/way/<token>`,
 * the whole of it, with each stop below it as `/way/<token>/<stop>`.
 */

const PLAIN = { stop: "message-0", language: null, service: null, by: null, who: "made up" } as const;

/** The moment that follows what is tapped on a sample's page. */
function momentOf(request: Request): PageMoment {
  const as = new URL(request.url).searchParams.get("as");
  const moments: PageMoment[] = ["happy", "unhappy", "happy words", "unhappy words", "later"];
  return moments.find((moment) => moment.replace(" ", "-") === as) ?? "question";
}

/** Answers what is below `/a/` for a sample's link: the real page, with nothing kept. */
export async function handleSampleRequest(request: Request, path: string[]): Promise<Response> {
  const token = (path[0] ?? "").slice(0, 60).split(".")[0];
  const preview = await found(request, token);
  if (preview instanceof Response) return preview;
  const here = `/a/${token}`;
  if (request.method === "POST") {
    if (path[1] !== "rate" && path[1] !== "words") return goTo(here);
    const form = new URLSearchParams((await request.text()).slice(0, 8000));
    const isUnhappy = path[1] === "rate" && Number(form.get("rating")) <= 3;
    if (path[1] === "rate") return goTo(`${here}?as=${isUnhappy ? "unhappy" : "happy"}`);
    return goTo(`${here}?as=happy-words`);
  }
  if (path.length > 1) return goTo(here);
  const walk = await walkBehind(preview);
  if (!walk) return lostPage(request);
  return customerHtml(
    <AnswerPage
      view={walkView(walk, momentOf(request), true, token)}
      preselect={null}
      wrong={null}
      typed={{}}
      changing={false}
    />,
  );
}

/** Answers what is below `/way/`. */
export async function handleWayRequest(request: Request, path: string[]): Promise<Response> {
  const token = (path[0] ?? "").slice(0, 60);
  const preview = await found(request, token);
  if (preview instanceof Response) return preview;
  if (preview.sample) return lostPage(request);
  const walk = await walkBehind(preview);
  if (!walk) return lostPage(request);
  if (path.length === 1)
    return customerHtml(await wayPage(walk, `/way/${token}`), 200, { "content-security-policy": FRAMES });
  const stop = walk.stops.find(({ key }) => key === path[1]);
  if (!stop) return lostPage(request);
  const html =
    stop.kind === "page"
      ? await walkPage(walk, stop.moment, true)
      : (await (stop.kind === "letter" ? walkLetterMail(walk) : walkMail(walk, stop.step))).html;
  return new Response(html, { headers: FRAMED_PAGE });
}

const FRAMED =
  "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src 'self'; frame-ancestors 'self'; base-uri 'none'; form-action 'none'; sandbox allow-same-origin";
/** What a stop is served with inside a frame of ours: it can be looked at, and nothing else. */
export const FRAMED_PAGE = {
  "content-type": "text/html; charset=utf-8",
  "cache-control": "no-store",
  "x-content-type-options": "nosniff",
  "x-frame-options": "SAMEORIGIN",
  "content-security-policy": FRAMED,
};
const FRAMES =
  "default-src 'none'; style-src 'unsafe-inline'; font-src 'self'; img-src 'self'; frame-src 'self'; frame-ancestors 'none'; base-uri 'none'";

async function found(request: Request, token: string): Promise<Preview | Response> {
  if (!(await isWelcomeClient(request.headers))) return lostPage(request, 429);
  const preview = isToken(token) ? await previewBehind(token, await clockNow()) : null;
  if (!preview) return lostPage(request, (await mayGuessAgain(request.headers)) ? 404 : 429);
  return (await isWelcome(`way ${token}`, 240, 60)) ? preview : lostPage(request, 429);
}

async function walkBehind({ scope, planId, sample }: Preview): Promise<Walk | null> {
  const now = await clockNow();
  return withClient(scope, (tx) => loadWalk(tx, scope, planId, sample ?? PLAIN, now));
}

/** The whole way on one page, for somebody who looks before they agree. */
async function wayPage(walk: Walk, base: string) {
  const { client } = walk.setting;
  const texts = walk.stops.flatMap((stop) =>
    stop.kind === "message"
      ? [
          {
            key: stop.key,
            url: walkPicture(walk, stop.step, WALK_TOKEN),
            ...walkMessage(walk, stop.step, shownBy(walk, stop.step)),
          },
        ]
      : [],
  );
  return (
    <CustomerPage
      title={`What ${client.name}’s customers see`}
      business={client.name}
      colour={client.colour}
      logo={client.logo}
      returns={false}
    >
      <h1>What your customers will see, step by step.</h1>
      <p className="soft">
        This is what they’d see for {walk.context.person.given}. Nothing here is sent, and nothing you tap is saved.
      </p>
      {walk.stops.map((stop) => {
        const text = texts.find(({ key }) => key === stop.key);
        return (
          <section key={stop.key}>
            <h2>{stop.name}</h2>
            <p className="soft">{stop.says}</p>
            {text && text.subject === null ? (
              <>
                {text.picture === null ? null : (
                  // biome-ignore lint/performance/noImgElement: this page is served without the framework
                  <img className="wide" src={text.url} alt={text.picture} />
                )}
                <blockquote>{text.body}</blockquote>
              </>
            ) : (
              <>
                {text?.subject ? <p>{text.subject}</p> : null}
                <iframe
                  title={stop.name}
                  src={`${base}/${stop.key}`}
                  style={{
                    width: "100%",
                    height: 560,
                    border: "1px solid #B9BCB0",
                    borderRadius: 16,
                    background: "#fff",
                  }}
                />
              </>
            )}
          </section>
        );
      })}
    </CustomerPage>
  );
}
