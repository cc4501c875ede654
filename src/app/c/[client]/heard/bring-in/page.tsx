import { notFound } from "next/navigation";
import { may } from "@/core/access/permissions";
import { sayAgo, sayCount } from "@/core/time/say";
import { loadSetting, todayOf } from "@/features/clients";
import { pagesByHand, recentImports } from "@/features/review-import";
import { BringForm, TypeForm, UndoButton } from "@/features/review-import/parts/ImportForms.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { DayField } from "@/ui/DayField.client";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Import reviews" };

type Props = { params: Promise<{ client: string }> };

/** Reviews of pages that nothing reads: as a file, or typed in. */
export default async function BringReviewsIn({ params }: Props) {
  const access = await requireAccess((await params).client, "see heard");
  if (!may(access.seat, "set up")) notFound();
  const now = await clockNow();
  const { slug } = access.seat;
  const { setting, imports } = await withClient(access, async (tx) => ({
    setting: await loadSetting(tx),
    imports: await recentImports(tx, access),
  }));
  const branchOf = (id: string) => setting.branches.find((branch) => branch.id === id)?.name ?? "";
  const pages = pagesByHand(setting).map(({ id, site, branchId }) => ({
    id,
    words: setting.branches.length > 1 ? `${site}, ${branchOf(branchId)}` : site,
  }));
  return (
    <Page
      margin={
        <>
          <Note title="For link-only pages">
            <p>
              Connected sites are collected automatically. For the rest, import their reviews here. They’re counted like
              any others, and you can write replies here, then copy them to the site.
            </p>
          </Note>
          <Note title="No duplicates">
            <p>A review you already have won’t be added again, however often you import its file.</p>
          </Note>
        </>
      }
    >
      <p>
        <Link href={`/c/${slug}/heard`}>Heard</Link>
      </p>
      <h1 className="title">Import reviews from sites we can’t connect to.</h1>
      {pages.length === 0 ? (
        <div className="mt-5">
          <Empty
            action={
              <Link href={`/c/${slug}/set-up/pages`} className="button">
                Review pages
              </Link>
            }
          >
            All your pages are connected, or you haven’t added any yet.
          </Empty>
        </div>
      ) : (
        <>
          <h2 className="font-title mt-6 text-[21px] font-semibold">Import a file</h2>
          <p className="text-second">
            CSV, Excel (.xlsx) or JSON, up to 5 MB. You can check it before anything is saved.
          </p>
          <BringForm slug={slug} pages={pages} />
          <h2 className="font-title mt-9 text-[21px] font-semibold">Type one in</h2>
          <TypeForm
            slug={slug}
            pages={pages}
            today={
              <DayField
                id="type-day"
                name="day"
                label="Written on"
                defaultValue={todayOf(setting, now)}
                today={todayOf(setting, now)}
              />
            }
          />
        </>
      )}
      {imports.length > 0 ? (
        <>
          <h2 className="font-title mt-9 text-[21px] font-semibold">Recent imports</h2>
          <ul className="divide-rule border-rule mt-2 divide-y border-y">
            {imports.map(({ id, name, state, kept, madeBy, madeAt }) => (
              <li key={id} className="flex flex-wrap items-center justify-between gap-x-4 py-2.5">
                <span>
                  {state === "looked at" ? <Link href={`/c/${slug}/heard/bring-in/${id}`}>{name}</Link> : <b>{name}</b>}{" "}
                  <span className="text-second">
                    {state === "looked at"
                      ? "checked, not imported yet"
                      : state === "kept"
                        ? `${sayCount(kept, "review")} new`
                        : "undone"}
                    , by {madeBy} {sayAgo(madeAt, now)}
                  </span>
                </span>
                {state === "kept" ? <UndoButton slug={slug} id={id} /> : null}
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </Page>
  );
}
