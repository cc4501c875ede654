import type { ReactNode } from "react";
import { HowThisWorks } from "./Guide.client";

/**
 * The two columns of every page: what is so, and the margin that says why, with the line between them down to the foot.
 * Under 900 px the margin follows.
 */
export function Page({ children, margin }: { children: ReactNode; margin?: ReactNode }) {
  return (
    <div className="mx-auto w-full max-w-[1280px] grow wide:grid wide:grid-cols-[minmax(0,1fr)_300px]">
      <main id="main" className="px-4 pt-6 pb-12 sm:px-8">
        {children}
      </main>
      {margin ? (
        <aside
          aria-label="More about this page"
          className="border-rule border-t px-4 pt-6 pb-12 sm:px-8 wide:border-t-0 wide:border-l wide:px-6"
        >
          {margin}
          <HowThisWorks />
        </aside>
      ) : null}
    </div>
  );
}

/** One thing the margin tells. */
export function Note({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-rule border-b py-5 first:pt-0 last:border-0">
      <h2 className="mb-1.5 text-[17px] font-semibold">{title}</h2>
      <div className="text-second space-y-2 [&_b]:text-ink [&_a]:text-ink [&_a]:underline [&_a]:decoration-edge [&_a]:underline-offset-[3px]">
        {children}
      </div>
    </section>
  );
}

/** Said where there is nothing yet, with what to do about it. */
export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <div className="border-rule text-second rounded-[12px] border border-dashed px-6 py-10 text-center">
      <p>{children}</p>
      {action ? <div className="mt-4">{action}</div> : null}
    </div>
  );
}

/** One line of a list of settings: what it is about, and its sentence. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid gap-x-4 py-3 sm:grid-cols-[150px_1fr]">
      <dt className="text-second font-semibold">{name}</dt>
      <dd className="leading-[1.75]">{children}</dd>
    </div>
  );
}
