import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { listLinks } from "@/features/standing-links";
import { requireAccess } from "@/platform/access";
import { standingLink } from "@/platform/customerLinks";
import { withClient } from "@/platform/database";
import { Copyable } from "@/ui/Copyable.client";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart } from "@/ui/filterPart";
import { Empty, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Where to use your link" };

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

/** How one's own link comes onto a phone's shortcuts, into a signature and onto an invoice, in three steps each. */
export default async function HowToUseLinks({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "see asking");
  const wanted = z.uuid().safeParse((await searchParams).link).data;
  const { links, setting } = await withClient(access, async (tx) => ({
    links: (await listLinks(tx, access)).filter(({ endedAt }) => endedAt === null),
    setting: await loadSetting(tx),
  }));
  const base = `/c/${access.seat.slug}/asking/links`;
  const link = links.find(({ id }) => id === wanted) ?? links[0];
  const address = link ? standingLink(link.token) : "";
  const { name } = setting.client;
  const ways = [
    {
      title: "On your phone, as a shortcut",
      steps: [
        "Copy the words below.",
        "In your phone’s settings, find “Text replacement” or “Personal dictionary” and add them under a short name such as “rev”.",
        "Now type that name in any chat or text, and your phone fills in the rest.",
      ],
      words: `How did we do? It only takes one tap: ${address}`,
    },
    {
      title: "In your email signature",
      steps: [
        "Copy the words below.",
        "In your email program, go to Settings, then Signatures.",
        "Paste the words under your name, then save.",
      ],
      words: `How did we do? Tell ${name}: ${address}`,
    },
    {
      title: "On an invoice or receipt",
      steps: [
        "Copy the words below, or download the code as PNG.",
        "Open your invoice template and go to the bottom.",
        "Paste it in. Print one and try it with your own phone.",
      ],
      words: `Were you happy with our work? ${address.replace(/^https?:\/\//, "")}`,
    },
  ];
  return (
    <Page>
      <p className="mb-1 text-[14px]">
        <Link href={base} className="button-quiet -ml-2">
          ← Standing links
        </Link>
      </p>
      <h1 className="title">Use your link wherever you write.</h1>
      {link ? (
        <>
          <FilterSentence
            parts={[
              "With the link ",
              filterPart({
                label: "Link",
                any: links[0].name,
                value: link === links[0] ? null : link.id,
                choices: links.slice(1).map((each) => ({ value: each.id, words: each.name })),
                href: (value) => (value ? `${base}/how?link=${value}` : `${base}/how`),
              }),
              ".",
            ]}
          />
          <div className="divide-rule border-rule mt-4 divide-y border-y">
            {ways.map(({ title, steps, words }) => (
              <section key={title} className="py-5">
                <h2 className="font-title text-[19px] font-semibold">{title}</h2>
                <ol className="my-3 max-w-[640px] list-decimal space-y-1 pl-5">
                  {steps.map((step) => (
                    <li key={step}>{step}</li>
                  ))}
                </ol>
                <Copyable text={words} label={`The words for: ${title.toLowerCase()}`} />
              </section>
            ))}
          </div>
        </>
      ) : (
        <div className="mt-5">
          <Empty
            action={
              <Link href={base} className="button-main">
                Standing links
              </Link>
            }
          >
            Create a standing link first, then come back here for places to put it.
          </Empty>
        </div>
      )}
    </Page>
  );
}
