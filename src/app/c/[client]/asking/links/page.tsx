import { may } from "@/core/access/permissions";
import { PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { changeLinkRules } from "@/features/plan-editor/clientActions";
import { DoorsSentence } from "@/features/plan-editor/parts/DoorSentences.client";
import { QuestionSentence } from "@/features/plan-editor/parts/QuestionSentence.client";
import { listLinks } from "@/features/standing-links";
import { EndLink, NewLink, PrintLink } from "@/features/standing-links/parts/LinkForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { standingLink } from "@/platform/customerLinks";
import { withClient } from "@/platform/database";
import { Copyable } from "@/ui/Copyable.client";
import { Empty, Note, Page, Row } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Standing links" };

type Props = { params: Promise<{ client: string }> };

export default async function StandingLinks({ params }: Props) {
  const access = await requireAccess((await params).client, "see asking");
  const now = await clockNow();
  const { links, setting } = await withClient(access, async (tx) => ({
    links: await listLinks(tx, access),
    setting: await loadSetting(tx),
  }));
  const { slug } = access.seat;
  const mayMake = may(access.seat, "set up");
  const open = links.filter(({ endedAt }) => endedAt === null);
  const rules = setting.client.openAnswers ?? PLAIN_ANSWER_RULES;
  const named = ({ id, name }: { id: string; name: string }) => ({ id, name });
  return (
    <Page
      margin={
        <>
          {mayMake ? (
            <Note title="Create one">
              <NewLink
                slug={slug}
                branches={setting.branches.map(named)}
                team={setting.team.filter(({ retired }) => !retired).map(named)}
              />
            </Note>
          ) : null}
          <Note title="Where to put it">
            <p>
              On your phone as a{" "}
              <Link href={`/c/${slug}/asking/links/how`}>shortcut, in your signature or on an invoice</Link>: three
              steps each. Or keep <Link href={`/c/${slug}/desk`}>the page for the desk</Link> on your phone’s home
              screen, and show the code.
            </p>
          </Note>
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${slug}/asking`} className="button-quiet -ml-2">
          ← Asking
        </Link>
      </p>
      <h1 className="title">
        {open.length === 0 ? "No standing links yet." : `${capital(sayCount(open.length, "standing link"))}.`}
      </h1>
      <p className="lead">
        A link that isn’t tied to one person: on the counter, in a van, at the bottom of an invoice. Everyone who opens
        it gets the same question.
      </p>
      <dl className="divide-rule border-rule mt-5 divide-y border-y">
        <Row name="What it asks">
          <QuestionSentence action={mayMake ? changeLinkRules.bind(null, slug) : null} rules={rules} />
        </Row>
        <Row name="Doors">
          <DoorsSentence action={mayMake ? changeLinkRules.bind(null, slug) : null} doors={rules.doors} />.
        </Row>
        <Row name="What it says">
          <Link href={`/c/${slug}/asking/links/words`} className="words-link">
            See every page and change its words
          </Link>{" "}
          in any language.
        </Row>
      </dl>
      {links.length === 0 ? (
        <div className="mt-5">
          <Empty>Create one for the counter, print its code and put it where people pay.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-5 divide-y border-y">
          {links.map((link) => (
            <li key={link.id} className="space-y-1.5 py-3.5">
              <p className="flex flex-wrap items-baseline justify-between gap-x-4">
                <b>{link.name}</b>
                <span className="text-second text-[14px]">
                  {setting.branches.find(({ id }) => id === link.branchId)?.name}
                  {link.teamMemberId
                    ? `, about ${setting.team.find(({ id }) => id === link.teamMemberId)?.name ?? "someone who has left"}`
                    : ""}
                </span>
              </p>
              <p>
                {link.opened === 0
                  ? "Nobody’s opened it yet"
                  : `Opened ${sayCount(link.opened, "time")}, answered ${sayCount(link.answered, "time")}, went on to a review site ${sayCount(link.wentToSites, "time")}`}
                {link.doubtful > 0 ? (
                  <span className="text-ochre-deep">
                    ; {sayCount(link.doubtful, "answer looks", "answers look")} automated
                  </span>
                ) : null}
                .
              </p>
              {link.endedAt === null ? (
                <div className="flex flex-wrap items-center gap-2">
                  <Copyable text={standingLink(link.token)} label="The link" />
                  {["svg", "png"].map((kind) => (
                    <a
                      key={kind}
                      className="button-quiet"
                      href={`/c/${slug}/asking/links/${link.id}/code/${kind}`}
                      download
                    >
                      QR code, {kind.toUpperCase()}
                      <span className="sr-only"> for {link.name}</span>
                    </a>
                  ))}
                  <PrintLink
                    address={`/c/${slug}/asking/links/${link.id}/poster`}
                    name={link.name}
                    language={setting.client.language}
                  />
                  {mayMake ? <EndLink slug={slug} id={link.id} name={link.name} /> : null}
                </div>
              ) : (
                <p className="text-second text-[14px]">Ended {sayAgo(link.endedAt, now)}.</p>
              )}
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
