import { z } from "zod";
import { sayPhone } from "@/core/contacts/phone";
import { capital, sayCount } from "@/core/time/say";
import { nameOf } from "@/features/people";
import { findInvalidAddresses } from "@/features/people-admin";
import { AddressRow } from "@/features/people-admin/parts/AddressRow.client";
import { gatewayWords } from "@/locales/asking";
import { requireAccess } from "@/platform/access";
import { withClient } from "@/platform/database";
import { Empty, Note, Page } from "@/ui/Page";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";

export const metadata = { title: "Addresses to fix" };

const PER_PAGE = 50;

type Props = {
  params: Promise<{ client: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

export default async function AddressesPage({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "edit people");
  const after = z.uuid().safeParse((await searchParams).after).data ?? null;
  const list = await withClient(access, (tx) => findInvalidAddresses(tx, access, after, PER_PAGE));
  const { slug } = access.seat;
  const guessed = list.filter(({ suggestion }) => suggestion).length;
  const last = list.at(-1);
  return (
    <Page
      margin={
        <>
          <Note title="Keyboard tip">
            <p>Press Enter to save and move to the next one.</p>
          </Note>
          <Note title="What happens next">
            <p>
              Once fixed, an address counts as new. Any ask that stopped because of it carries on in the next send
              hours, unless it’s too late.
            </p>
          </Note>
        </>
      }
    >
      <h1 className="title">
        {list.length === 0
          ? "Every address works."
          : `${capital(sayCount(list.length, "address", "addresses"))}${list.length >= PER_PAGE ? " or more" : ""} to fix.`}
      </h1>
      <p className="lead">
        {guessed > 0 ? `Estima has a suggestion for ${guessed} of them.` : "They bounced, or look mistyped."}
      </p>
      {list.length === 0 ? (
        <div className="mt-6">
          <Empty
            action={
              <Link href={`/c/${slug}/people`} className="button">
                Back to people
              </Link>
            }
          >
            Nothing has bounced, and nothing looks mistyped.
          </Empty>
        </div>
      ) : (
        <ul className="divide-rule border-rule mt-6 divide-y border-y">
          {list.map(({ person, channel, address, isBack, why, suggestion }) => (
            <li key={`${person.id} ${channel}`} className="py-3.5">
              <p>
                <Link href={`/c/${slug}/people/${person.id}`} className="name-link">
                  {nameOf(person)}
                </Link>{" "}
                <s className="text-second [overflow-wrap:anywhere]">
                  {channel === "text" ? sayPhone(address) : address}
                </s>{" "}
                <span className="text-second">
                  {why
                    ? `${capital(gatewayWords(why))}.`
                    : isBack
                      ? "It bounced."
                      : "The part after the @ looks mistyped."}
                </span>
              </p>
              <AddressRow
                slug={slug}
                id={person.id}
                channel={channel}
                name={nameOf(person)}
                address={address}
                suggestion={suggestion}
              />
            </li>
          ))}
        </ul>
      )}
      {list.length >= PER_PAGE && last ? (
        <p className="mt-5">
          <Link href={`/c/${slug}/people/addresses?after=${last.person.id}`} className="button">
            The next {PER_PAGE}
          </Link>
        </p>
      ) : null}
    </Page>
  );
}
