import { notFound } from "next/navigation";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { sayPicture } from "@/core/plans/sayRules";
import { PLAIN_PICTURE, pictureDesign, pictureWords } from "@/core/words/namedPicture";
import { pageWords, wordsOf } from "@/core/words/planWords";
import { walkChoice } from "@/core/words/walk";
import { loadPlanView } from "@/features/plan-editor";
import { PictureEditor } from "@/features/plan-editor/parts/PictureEditor.client";
import { PictureSentence } from "@/features/plan-editor/parts/PictureSentence.client";
import { PlanDraft } from "@/features/plan-editor/parts/PlanDraft";
import { loadAgencyWords, loadWalk } from "@/features/words";
import { WalkPieces } from "@/features/words/parts/WalkPieces";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "The picture" };

type Props = { params: Promise<{ client: string; plan: string }> };

/** The picture with the customer's name: what it shows, where its words stand, and which messages carry it. */
export default async function PicturePage({ params }: Props) {
  const { client, plan: planId } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  if (!z.uuid().safeParse(planId).success) notFound();
  const now = await clockNow();
  const view = await loadPlanView(access, planId, { step: 0, wording: undefined }, now);
  const seen = await withClient(access, async (tx) => {
    const walk = await loadWalk(tx, access, planId, walkChoice.parse({}), now);
    return walk && { walk, agency: await loadAgencyWords(tx) };
  });
  if (!seen || !view) notFound();
  const { walk, agency } = seen;
  const { rules, setting, own } = walk;
  const { picture } = rules;
  const template = pageWords(wordsOf(rules), "picture", { language: own, serviceId: null }).words;
  const words = pictureWords(template, {
    person: { given: "Odette", family: "" },
    business: setting.client.name,
    branch: setting.branches[0]?.name ?? "",
  });
  return (
    <Page
      margin={
        <>
          <Note title="What it costs">
            <p>
              A picture costs nothing extra in an email. A text with a picture is charged{" "}
              <Link href={`/c/${client}/asking`}>at a higher price</Link>.
            </p>
          </Note>
          <Note title="Which name people see">
            <p>
              Their first name, as we have it. If we can’t draw it (letters our typefaces don’t have, or right-to-left
              scripts), the picture goes out without a name. The words are also its description for people who can’t see
              it.
            </p>
          </Note>
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={view.base} className="button-quiet -ml-2">
          ← {walk.plan.name}
        </Link>
      </p>
      <h1 className="title">A picture with their name.</h1>
      <p className="lead">
        It goes in <PictureSentence plan={view.ref} rules={rules} />
        {sayPicture(rules) === "no message" ? ", so nobody gets it yet" : ""}.
      </p>
      <PlanDraft view={view} />
      <div className="mt-5">
        <PictureEditor
          // What was saved elsewhere shows as it is now.
          key={view.ref.revision}
          plan={view.ref}
          base={`${view.base}/picture`}
          design={pictureDesign.parse(picture ?? PLAIN_PICTURE)}
          words={words}
          ownColour={setting.client.colour}
        />
      </div>
      <section className="mt-6 max-w-[620px]" aria-label="Its words">
        <WalkPieces
          walk={walk}
          kept={view.ref}
          agency={agency}
          pieces={[{ place: "page/picture", label: "In the picture", field: "picture" }]}
          mayChange={may(access.seat, "change words")}
          service={null}
        />
        <p className="text-second mt-2 text-[14px]">
          It has words in the other languages too:{" "}
          <Link href={`${view.base}/words`} className="words-link">
            see and change them
          </Link>
          .
        </p>
      </section>
    </Page>
  );
}
