import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/roles";
import { REASONS, sayReason } from "@/core/asks/examine";
import { sayPhone } from "@/core/contacts/phone";
import { capital, sayAgo, sayCount } from "@/core/time/say";
import { DAY, fromLocal, parseDay } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { countPeople, leftOutPeople, listPeople, PEOPLE_PAGE, type Person, searchPeople } from "@/features/people";
import { PeopleSearch } from "@/features/people/parts/PeopleSearch.client";
import { PersonForm } from "@/features/people/parts/PersonForm.client";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { Empty, Page } from "@/ui/Page";

export const metadata = { title: "People" };

type Props = { params: Promise<{ client: string }>; searchParams: Promise<Record<string, string | string[] | undefined>> };

const query = z.object({
  q: z.string().max(100).transform(cleanText).catch(""),
  find: z.string().optional().catch(undefined),
  leftout: z.enum(REASONS).optional().catch(undefined),
  day: z.string().optional().catch(undefined),
  after: z
    .string()
    .optional()
    .transform((text) => {
      const parts = text && cleanText(text).split("~");
      return parts?.length === 3 && z.uuid().safeParse(parts[2]).success ? { family: parts[0], given: parts[1], id: parts[2] } : null;
    })
    .catch(null),
});

export default async function People({ params, searchParams }: Props) {
  const access = await requireAccess((await params).client, "look");
  const wanted = query.parse({ q: "", ...(await searchParams) });
  const now = await clockNow();
  const base = `/c/${access.seat.slug}/people`;
  let from: number | null = null;
  try {
    from = wanted.day ? fromLocal(access.seat.zone, parseDay(wanted.day) * DAY) : null;
  } catch {
    from = null;
  }
  const { found, total } = await withClient(access, async (tx) => ({
    total: await countPeople(tx, access),
    found:
      wanted.leftout && from !== null
        ? await leftOutPeople(tx, access, wanted.leftout, from, from + DAY)
        : wanted.q.trim()
          ? await searchPeople(tx, wanted.q, 100)
          : await listPeople(tx, access, wanted.after),
  }));
  const isList = !wanted.q.trim() && !wanted.leftout;
  const shown = isList ? found.slice(0, PEOPLE_PAGE) : found;
  const last = shown.at(-1);
  const title = wanted.leftout
    ? `${capital(sayCount(found.length, "person", "people"))} left out: ${sayReason(wanted.leftout)}.`
    : wanted.q.trim()
      ? `${capital(sayCount(found.length, "person matches", "people match"))} “${wanted.q.trim()}”.`
      : `${total.toLocaleString("en-GB")} people, by name.`;
  return (
    <Page>
      <div className="flex flex-wrap items-start justify-between gap-4">
        <h1 className="title">{title}</h1>
        {may(access.seat.role, "keep people") ? <PersonForm slug={access.seat.slug} /> : null}
      </div>
      <div className="mt-5 mb-5">
        <PeopleSearch base={base} typed={wanted.q} focus={wanted.find === "1"} />
      </div>
      {shown.length === 0 ? (
        <Empty
          action={
            isList ? null : (
              <Link href={base} className="button">
                Show everybody
              </Link>
            )
          }
        >
          {isList ? "Nobody is here yet. Add the first person." : "Nobody matches. Try part of the name, or the last digits of the phone."}
        </Empty>
      ) : (
        <table className="w-full border-collapse text-left">
          <thead className="text-second text-[13px] max-sm:sr-only">
            <tr>
              <th className="py-1.5 pr-4 font-medium">Name</th>
              <th className="py-1.5 pr-4 font-medium">Mobile</th>
              <th className="py-1.5 pr-4 font-medium">Email</th>
              <th className="py-1.5 font-medium">Last asked</th>
            </tr>
          </thead>
          <tbody className="divide-rule border-rule divide-y border-y">
            {shown.map((person) => (
              <tr key={person.id} className="max-sm:block max-sm:py-2">
                <td className="py-2 pr-4 max-sm:block max-sm:py-0">
                  <Link href={`${base}/${person.id}`} className="name-link">
                    {person.family ? `${person.family}, ${person.given}` : person.given}
                  </Link>
                  <Marks person={person} />
                </td>
                <td className="py-2 pr-4 whitespace-nowrap max-sm:block max-sm:py-0">
                  {person.phone ? (
                    <Address
                      text={sayPhone(person.phone)}
                      trouble={person.textOptedOutAt ? "opted out" : person.textBouncedAt ? "came back" : person.phoneTakesTexts ? null : "landline"}
                    />
                  ) : null}
                </td>
                <td className="py-2 pr-4 [overflow-wrap:anywhere] max-sm:block max-sm:py-0">
                  {person.email ? <Address text={person.email} trouble={person.emailOptedOutAt ? "opted out" : person.emailBouncedAt ? "came back" : null} /> : null}
                </td>
                <td className="text-second py-2 whitespace-nowrap max-sm:block max-sm:py-0">{person.lastAskedAt ? sayAgo(person.lastAskedAt, now) : "never"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {isList && found.length > PEOPLE_PAGE && last ? (
        <p className="mt-5">
          <Link href={`${base}?after=${encodeURIComponent(`${last.family}~${last.given}~${last.id}`)}`} className="button">
            The next {PEOPLE_PAGE}
          </Link>
        </p>
      ) : null}
    </Page>
  );
}

function Marks({ person }: { person: Person }) {
  return (
    <>
      {person.doNotAsk ? <span className="tag bg-ochre-tint text-ochre-deep ml-2">do not ask</span> : null}
      {person.tags.map((tag) => (
        <span key={tag} className="tag bg-mulberry-tint text-ink ml-2">
          {tag}
        </span>
      ))}
    </>
  );
}

function Address({ text, trouble }: { text: string; trouble: string | null }) {
  if (!trouble) return text;
  return (
    <span className="text-second">
      <s>{text}</s> {trouble}
    </span>
  );
}
