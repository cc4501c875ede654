import { may } from "@/core/access/permissions";
import { capital, sayCount } from "@/core/time/say";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { loadOverview } from "./overview";

export const metadata = { title: "Set-up" };

type Props = { params: Promise<{ client: string }> };

/** How each part of Set-up is, in a sentence; what needs somebody comes first. */
export default async function SetUp({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const { slug } = access.seat;
  const parts = await loadOverview(access, may(access.seat, "edit people"), await clockNow());
  const needs = parts.filter((part) => part.needs).length;
  return (
    <Page
      margin={
        <Note title="For developers">
          <p>
            Your own software can use the <a href="/api/v1">API</a>, with a{" "}
            <Link href={`/c/${slug}/set-up/keys`}>key</Link>, or send visits to a{" "}
            <Link href={`/c/${slug}/set-up/feeds`}>webhook</Link>.
          </p>
        </Note>
      }
    >
      <h1 className="title">
        {needs === 0 ? "Everything is set up." : `${capital(sayCount(needs, "thing needs", "things need"))} you.`}
      </h1>
      <p className="lead">
        {needs === 0 ? "Open a part to see it in full or to change it." : "Everything else is set up and working."}
      </p>
      <ul className="divide-rule border-rule mt-6 divide-y border-y">
        {parts.map((part) => (
          <li key={part.path} className="relative grid gap-x-6 gap-y-1 py-4 pr-7 sm:grid-cols-[190px_1fr]">
            <h2 className="font-semibold">
              <Link href={`/c/${slug}/${part.path}`} className="name-link after:absolute after:inset-0">
                {part.name}
              </Link>
            </h2>
            <div className="leading-[1.6]">
              {part.needs ? <b className="text-vermilion-deep font-semibold">{part.needs.says}</b> : null}{" "}
              <span className={part.needs ? "text-second" : undefined}>{part.says}</span>
              {part.needs ? (
                <p className="mt-2">
                  <Link href={`/c/${slug}/${part.needs.path}`} className="button-main relative z-10">
                    {part.needs.button}
                  </Link>
                </p>
              ) : null}
            </div>
            <span aria-hidden="true" className="text-second absolute top-4 right-1">
              ›
            </span>
          </li>
        ))}
      </ul>
    </Page>
  );
}
