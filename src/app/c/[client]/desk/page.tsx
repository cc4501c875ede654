import { z } from "zod";
import { AskAnybody } from "@/features/asks/parts/AskThisPerson.client";
import { peopleAtPhone } from "@/features/desk";
import { WhoForm } from "@/features/desk/parts/Desk.client";
import { codeImage, listLinks, type StandingLink } from "@/features/standing-links";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export const generateMetadata = async ({ params }: Props) => ({
  title: "At the desk",
  manifest: `/manifests/${encodeURIComponent((await params).client)}`,
  icons: { apple: "/icons/estima-192.png" },
});

/**
 * Made for a phone in the hand, and its home screen: asks whoever is there by name or number, or shows them a code. On
 * a shared phone, staff say here who they are, so that their name stands beside what they do.
 */
export default async function Desk({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "ask");
  const wanted = z.uuid().safeParse((await searchParams).code).data;
  const { links, people } = await withClient(access, async (tx) => ({
    links: (await listLinks(tx, access)).filter(({ endedAt }) => endedAt === null),
    people: access.user.isPhone ? await peopleAtPhone(tx) : [],
  }));
  const shown = links.find(({ id }) => id === wanted);
  const base = `/c/${access.seat.slug}/desk`;
  return (
    <main id="main" className="mx-auto w-full max-w-[560px] px-6 py-10">
      {shown ? <FullScreen link={shown} back={base} business={access.seat.name} /> : null}
      <h1 className="title">Ask the customer in front of you.</h1>
      <p className="lead mb-4">By name or number, or add someone new.</p>
      <AskAnybody />
      <section className="border-rule mt-10 border-t pt-6" aria-labelledby="codes">
        <h2 id="codes" className="mb-1 text-[19px] font-semibold">
          Or show them a code
        </h2>
        {links.length === 0 ? (
          <p className="text-second">No standing links yet. You can create one under Asking.</p>
        ) : (
          <ul className="divide-rule divide-y">
            {links.map(({ id, name }) => (
              <li key={id}>
                <Link href={`${base}?code=${id}`} className="flex min-h-[48px] items-center">
                  {name}
                </Link>
              </li>
            ))}
          </ul>
        )}
      </section>
      {access.user.isPhone ? (
        <section className="border-rule mt-10 border-t pt-6" aria-label="Who is asking">
          <h2 className="mb-1 text-[19px] font-semibold">Who is asking?</h2>
          <p className="text-second mb-3">
            Say who you are, and your name is recorded with everyone you ask. For anything else, sign in on your own
            device.
          </p>
          <WhoForm slug={access.seat.slug} people={people} />
        </section>
      ) : (
        <p className="text-second mt-10 text-[14px]">
          Keep this page handy: open your browser’s menu and choose “Add to home screen”.
        </p>
      )}
    </main>
  );
}

async function FullScreen({ link, back, business }: { link: StandingLink; back: string; business: string }) {
  return (
    <div className="fixed inset-0 z-50 flex flex-col items-center justify-center gap-5 bg-white p-6 text-center">
      <p className="text-[22px] font-semibold">How was it at {business}?</p>
      {/* biome-ignore lint/performance/noImgElement: drawn for this page alone */}
      <img
        src={await codeImage(link.token)}
        alt={`The code for ${link.name}: point a phone’s camera at it`}
        className="aspect-square w-[min(86vw,62dvh)]"
      />
      <Link href={back} className="button">
        Done
      </Link>
    </div>
  );
}
