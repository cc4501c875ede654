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
          <Note title="By keyboard">
            <p>Enter saves the field and goes on to the next.</p>
          </Note>
          <Note title="What happens then">
            <p>
              Once fixed, an address counts as new. An ask that had to stop without it goes on at the next permitted
              time, unless it is too late.
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
        {guessed > 0
          ? `For ${guessed} of them Estima thinks it knows what was meant.`
          : "They came back, or look mistyped."}
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
            Nothing came back, and nothing looks mistyped.
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
                      ? "It came back."
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
