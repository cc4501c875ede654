import Link from "next/link";
import { may } from "@/core/access/permissions";
import { sayMoment } from "@/core/time/say";
import { roleWords } from "@/locales/accounts";
import { type AgencyAccess, requireUser } from "@/platform/access";
import { now as clockNow, demoClockState } from "@/platform/clock";
import { environment } from "@/platform/environment";
import { AccountMenu, Notices } from "./AccountMenu.client";
import { DemoClock } from "./DemoClock.client";
import { Looking } from "./Looking";
import { Places } from "./Places.client";

/** The head of the agency's own pages: the agency and its places. */
export async function AgencyMasthead({ access }: { access: AgencyAccess }) {
  const { seat, user, agencies } = access;
  const { seats } = await requireUser();
  const zone = seats.find(({ agencyId }) => agencyId === seat.agencyId)?.zone ?? "UTC";
  const { ESTIMA_DEMO, TOWN_URL } = environment();
  const clock = ESTIMA_DEMO ? await demoClockState() : null;
  const clockWords = sayMoment(zone, clock?.now ?? (await clockNow()));
  const places = [
    { name: "Clients", path: "", also: ["start", "clients"] },
    ...(may(seat, "change words") ? [{ name: "Words", path: "words", also: ["replies"] }] : []),
    ...(may(seat, "manage people")
      ? [
          { name: "Team and access", path: "people" },
          { name: "Who did what", path: "trail" },
        ]
      : []),
  ];
  return (
    <>
      <a
        href="#main"
        className="bg-mulberry text-on-mulberry absolute -top-20 left-3 z-50 rounded-b-[8px] px-4 py-2 focus:top-0"
      >
        Skip to content
      </a>
      <Looking user={user} />
      <header data-hydrates="" className="border-rule bg-sheet sticky top-0 z-30 border-b">
        <div className="mx-auto flex min-h-[56px] w-full max-w-[1280px] flex-wrap items-stretch gap-x-4 px-4 sm:px-8">
          <div className="flex min-w-0 items-center gap-3 sm:flex-1">
            <Link href={`/agency/${seat.slug}`} className="font-title text-mulberry text-[23px] font-bold no-underline">
              Estima
            </Link>
            <span aria-hidden="true" className="border-rule hidden h-5 border-l sm:block" />
            <AccountMenu
              name={seat.name}
              user={user}
              role={roleWords(seat)}
              others={agencies.filter(({ slug }) => slug !== seat.slug).map(({ slug, name }) => ({ slug, name }))}
            />
          </div>
          <Places base={`/agency/${seat.slug}`} places={places} />
          <div className="flex items-center justify-end wide:flex-1">
            <span className="hidden md:block">
              {clock ? (
                <DemoClock words={clockWords} state={clock} townUrl={TOWN_URL ?? null} />
              ) : (
                <time className="text-second text-[14px]">{clockWords}</time>
              )}
            </span>
          </div>
        </div>
      </header>
      <Places base={`/agency/${seat.slug}`} places={places} bottom />
      <Notices />
    </>
  );
}
