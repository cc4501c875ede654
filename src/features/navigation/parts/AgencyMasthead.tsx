import Link from "next/link";
import { may } from "@/core/access/permissions";
import { roleWords } from "@/locales/accounts";
import type { AgencyAccess } from "@/platform/access";
import { AccountMenu, Notices } from "./AccountMenu.client";
import { Places } from "./Places.client";

/** The head of the agency's own pages: the agency and its places. */
export function AgencyMasthead({ access }: { access: AgencyAccess }) {
  const { seat, user, agencies } = access;
  const places = [
    { name: "Clients", path: "" },
    ...(may(seat, "manage people") ? [{ name: "People and rights", path: "people" }] : []),
  ];
  return (
    <>
      <a
        href="#main"
        className="bg-mulberry text-on-mulberry absolute -top-20 left-3 z-50 rounded-b-[8px] px-4 py-2 focus:top-0"
      >
        To the page
      </a>
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
          <div className="wide:flex-1" />
        </div>
      </header>
      <Places base={`/agency/${seat.slug}`} places={places} bottom />
      <Notices />
    </>
  );
}
