import type { ReactNode } from "react";
import { AgencyName } from "./AgencyName";
import { Ready } from "./Ready.client";

/** A page that stands by itself, for whoever is not signed in: a title and what there is to do. */
export function PlainPage({
  title,
  brand = null,
  children,
}: {
  title: string;
  /** Whose page it is, where that is an agency's. */
  brand?: { name: string; colour: string; logoId: string | null } | null;
  children: ReactNode;
}) {
  return (
    <main id="main" data-hydrates="" className="mx-auto w-full max-w-[520px] px-6 py-14">
      {brand ? (
        <p>
          <AgencyName {...brand} />
        </p>
      ) : (
        <p className="font-title text-mulberry text-[26px] font-bold">Estima</p>
      )}
      <h1 className="title mt-6 mb-4">{title}</h1>
      <div className="space-y-4">{children}</div>
      <Ready />
    </main>
  );
}
