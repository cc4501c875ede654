import Link from "next/link";
import { may, type Permission } from "@/core/access/permissions";
import { sayMoment } from "@/core/time/say";
import { AskSomeone } from "@/features/asks/parts/AskSomeone.client";
import { loadSetting } from "@/features/clients";
import { articles } from "@/features/guide";
import { waitingCount } from "@/features/today";
import { roleWords } from "@/locales/accounts";
import { type Access, type AgencySeat, mayEverywhere, requireUser, type Seat } from "@/platform/access";
import { now as clockNow, demoClockState } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { AgencyName } from "@/ui/AgencyName";
import { CLIENT_PLACES } from "../start";
import { DemoClock } from "./DemoClock.client";
import { Looking } from "./Looking";
import { type Destination, Palette } from "./Palette.client";
import { ClientMenu, Keys, type Place, Places } from "./Places.client";

/** The head of every page: client, places, the clock, and "Ask someone". */
export async function Masthead({ access }: { access: Access }) {
  const { seat, seats, user } = access;
  const { agencies } = await requireUser();
  const agency = agencies.find(({ agencyId }) => agencyId === seat.agencyId);
  const now = await clockNow();
  const { setting, waiting } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    waiting: await waitingCount(tx, access, now),
  }));
  const { ESTIMA_DEMO, TOWN_URL } = environment();
  const places: Place[] = [
    ...CLIENT_PLACES.filter(({ needs }) => may(seat, needs)).map(({ name, path }) => ({
      name,
      path,
      ...(path === "heard" ? { waiting } : {}),
    })),
    ...(may(seat, "set up") ? [{ name: "Set-up", path: "set-up" }] : []),
  ];
  const clock = ESTIMA_DEMO ? await demoClockState() : null;
  const clockWords = sayMoment(seat.zone, clock?.now ?? now);
  const choose = ({ id, name }: { id: string; name: string }) => ({ id, name });
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
        <div className="mx-auto flex min-h-[56px] w-full max-w-[1280px] items-stretch gap-x-4 px-4 sm:px-8">
          <div className="flex min-w-0 flex-1 items-center gap-3">
            <Brand seat={seat} />
            <span aria-hidden="true" className="border-rule hidden h-5 border-l sm:block" />
            <ClientMenu
              slug={seat.slug}
              clients={seats.map(({ slug, name }) => ({ slug, name }))}
              user={user.isPhone ? { name: user.name, email: "" } : user}
              agency={seat.agency}
              role={user.isPhone ? "a shared phone" : roleWords(seat)}
              help={seat.helpEmail && isClients(seat) ? { agency: seat.agency, email: seat.helpEmail } : null}
              elsewhere={agency ? agencyLinks(agency, seats.length) : []}
            />
          </div>
          <Places base={`/c/${seat.slug}`} places={places} />
          <div className="flex items-center justify-end gap-3 wide:flex-1">
            <span className="hidden md:block">
              {clock ? (
                <DemoClock words={clockWords} state={clock} townUrl={TOWN_URL ?? null} />
              ) : (
                <time className="text-second text-[14px]">{clockWords}</time>
              )}
            </span>
            {may(seat, "ask") ? (
              <AskSomeone
                slug={seat.slug}
                services={setting.services.filter(({ neverAsk, retired }) => !neverAsk && !retired).map(choose)}
                branches={setting.branches.map(choose)}
                team={setting.team.filter(({ retired }) => !retired).map(choose)}
                aboutLabel="Who or what it’s about (pet, car, piano…)"
                isShared={user.phone !== undefined}
              />
            ) : null}
          </div>
        </div>
        {clock ? (
          <div className="border-rule border-t px-4 py-1 sm:px-8 md:hidden">
            <DemoClock words={clockWords} state={clock} townUrl={TOWN_URL ?? null} />
          </div>
        ) : null}
      </header>
      <Places base={`/c/${seat.slug}`} places={places} bottom />
      <Keys
        slug={seat.slug}
        places={places.map(({ path }) => path)}
        mayAsk={may(seat, "ask")}
        mayImport={may(seat, "import lists")}
      />
      <Palette
        slug={seat.slug}
        destinations={destinationsOf(seat, places)}
        guide={articles().map(({ slug, title }) => ({ slug, title }))}
        mayAsk={may(seat, "ask")}
      />
    </>
  );
}

/** Whether somebody belongs to the client itself, not to its agency. */
const isClients = ({ kind }: Seat) => kind === "client" || kind === "branch";

/**
 * What stands first: for a client's own people their agency's logo, or its name in its colour; on a phone a name would
 * leave no room for the client's own.
 */
function Brand({ seat }: { seat: Seat }) {
  if (!isClients(seat))
    return (
      <Link href="/" className="font-title text-mulberry text-[23px] font-bold no-underline">
        Estima
      </Link>
    );
  return (
    <Link
      href="/"
      className={`${seat.agencyLogo ? "flex" : "hidden sm:flex"} max-w-[30vw] items-center no-underline sm:max-w-[220px]`}
    >
      <AgencyName name={seat.agency} colour={seat.agencyColour} logoId={seat.agencyLogo} />
    </Link>
  );
}

const PAGES: [string, string, Permission][] = [
  ["Import a list", "people/import", "import lists"],
  ["Addresses to fix", "people/addresses", "edit people"],
  ["Planned and sent", "asking/log", "see asking"],
  ["Public reviews", "heard?show=reviews", "see heard"],
  ["Concerns", "heard?show=concerns", "see heard"],
];

/** Where the palette leads: the places in the masthead, and pages below them that somebody may see. */
function destinationsOf(seat: Seat, places: readonly Place[]): Destination[] {
  const pages = PAGES.filter(([, , permission]) => may(seat, permission)).map(([name, path]) => ({ name, path }));
  if (mayEverywhere(seat, "edit people")) pages.push({ name: "Duplicates and households", path: "people/duplicates" });
  return [...places.map(({ name, path }) => ({ name, path })), ...pages];
}

/** The agency's own pages in the menu; a business alone is told nothing of clients. */
function agencyLinks(agency: AgencySeat, clients: number): { words: string; href: string }[] {
  const base = `/agency/${agency.slug}`;
  if (clients > 1) return [{ words: "All clients", href: base }];
  return [
    ...(may(agency, "manage people") ? [{ words: "Team and access", href: `${base}/people` }] : []),
    ...(may(agency, "start clients") ? [{ words: "Start another client", href: base }] : []),
  ];
}
