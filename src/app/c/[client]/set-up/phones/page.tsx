import { capital, sayAgo, sayCount, sayDay } from "@/core/time/say";
import { loadSetting } from "@/features/clients";
import { DAYS_ALLOWED, LINK_MINUTES, listPhones } from "@/features/desk";
import { EndPhone, PhoneForm } from "@/features/desk/parts/Desk.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow, realTime } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";

export const metadata = { title: "Shared phones" };

type Props = { params: Promise<{ client: string }> };

export default async function Phones({ params }: Props) {
  const access = await requireAccess((await params).client, "set up");
  const now = await clockNow();
  const { phones, setting } = await withClient(access, async (tx) => ({
    phones: await listPhones(tx, access),
    setting: await loadSetting(tx),
  }));
  const { slug, zone } = access.seat;
  const branchOf = (id: string | null) => setting.branches.find((branch) => branch.id === id)?.name;
  return (
    <Page
      margin={
        <Note title="Add one">
          <PhoneForm
            slug={slug}
            branches={setting.branches.map(({ id, name }) => ({ id, name }))}
            days={DAYS_ALLOWED}
          />
        </Note>
      }
    >
      <h1 className="title">
        {phones.length === 0 ? "No shared phones yet." : `${capital(sayCount(phones.length, "shared phone"))}.`}
      </h1>
      <p className="lead">
        A phone at the desk stays signed in and can do one thing: ask the customer in front of it. Staff enter their own
        PIN, so we know who asked; nothing else opens.
      </p>
      {phones.length === 0 ? (
        <div className="mt-5">
          <Empty>Add the phone or tablet at the front desk, and open its link there.</Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-5 divide-y border-y">
          {phones.map((phone) => (
            <li key={phone.id} className="flex flex-wrap items-center justify-between gap-3 py-2.5">
              <span>
                <b>{phone.name}</b>
                {phone.branchId ? ` at ${branchOf(phone.branchId) ?? "a branch that’s been removed"}` : ""}
                <span className="text-second block text-[14px]">
                  {phone.openedAt === null
                    ? (phone.linkExpiresAt ?? 0) < realTime()
                      ? `Its link wasn’t opened within ${LINK_MINUTES} minutes. Remove it and add it again.`
                      : "Waiting for its link to be opened."
                    : phone.until < now
                      ? "Signed out: its time is up."
                      : `Signed in until ${sayDay(zone, phone.until, now)}.`}{" "}
                  Added {sayAgo(phone.createdAt, now)} by {phone.by}.
                </span>
              </span>
              <EndPhone slug={slug} id={phone.id} name={phone.name} />
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
