import { createHash } from "node:crypto";
import { may } from "@/core/access/permissions";
import { wordsOf } from "@/core/words/planWords";
import { piecesOf, type WalkChoice, walkChoice } from "@/core/words/walk";
import { linkWalkPage, loadAgencyWords, loadLinkWalk } from "@/features/words";
import { languagePart } from "@/features/words/parts/languagePart";
import { WalkFrame } from "@/features/words/parts/WalkFrame";
import { WalkPieces } from "@/features/words/parts/WalkPieces";
import { WalkStrip } from "@/features/words/parts/WalkStrip";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "What standing links show" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

/** The way from a standing link: its pages as the real thing, where their words are changed. */
export default async function LinkWordsPage({ params, searchParams }: Props) {
  const { client } = await params;
  const access = await requireAccess(client, "see asking", "whole client");
  const now = await clockNow();
  const choice = walkChoice.parse({ language: null, service: null, by: null, ...(await searchParams) });
  const { walk, agency } = await withClient(access, async (tx) => ({
    walk: await loadLinkWalk(tx, access, choice, now),
    agency: await loadAgencyWords(tx),
  }));
  const { stop, stops, rules, language, own, setting } = walk;
  const base = `/c/${client}/asking/links/words`;
  const link = (change: Partial<Record<keyof WalkChoice, string | null>>) => {
    const wanted = { stop: stop.key, language: choice.language, ...change };
    const set = Object.entries(wanted).filter(([, value]) => value);
    return `${base}?${new URLSearchParams(set.map(([name, value]) => [name, String(value)]))}`;
  };
  const page = await linkWalkPage(walk, stop.moment);
  // With what it shows, so that the frame shows what was just changed.
  const shown = createHash("sha256").update(page).digest("hex").slice(0, 12);
  return (
    <Page
      margin={
        <>
          <Note title="Live straight away">
            <p>Changes here show on every standing link’s pages from the next visitor on.</p>
          </Note>
          <Note title="Their page">
            <p>
              <b>{Math.max(1, Math.round(new TextEncoder().encode(page).length / 1024))} KB</b> without its font. It
              works without scripts.
            </p>
          </Note>
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/c/${client}/asking/links`} className="button-quiet -ml-2">
          ← Standing links
        </Link>
      </p>
      <h1 className="title">What people see when they open a standing link.</h1>
      <FilterSentence
        parts={[
          may(access.seat, "change words") ? "Click any words to change them. In " : "In ",
          languagePart(own, language, (value) => link({ language: value })),
          ".",
        ]}
      />
      <WalkStrip stops={stops} here={stop.key} href={(key) => link({ stop: key })} />
      <div className="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_340px]">
        <section aria-label={`Words for ${stop.name}`}>
          <h2 className="font-sans text-[16px] font-semibold tracking-normal">{stop.name}</h2>
          <WalkPieces
            walk={walk}
            kept={{ linksOf: client }}
            agency={agency}
            pieces={piecesOf(rules, stop)}
            mayChange={may(access.seat, "change words")}
            service={null}
          />
          <p className="text-second mt-5 text-[14px]">
            {Object.keys(wordsOf(rules).own).length === 0
              ? "Nothing’s been changed yet."
              : "You can undo each change separately."}
          </p>
        </section>
        <section aria-label={`Preview of ${stop.name}`}>
          <WalkFrame
            name={stop.name}
            src={`${base}/stop/${stop.key}?${new URLSearchParams({ ...(choice.language ? { language: choice.language } : {}), shown })}`}
            message={null}
            from={setting.client.name}
            picture={null}
          />
        </section>
      </div>
    </Page>
  );
}
