import Link from "next/link";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { capital, sayCount } from "@/core/time/say";
import { LANGUAGE_NAMES, LANGUAGES, type Language } from "@/core/words/languages";
import { FIELDS, kindOf, MESSAGES, PAGE_PLACES, type PieceName, pieceKey, readKey } from "@/core/words/pieces";
import { LINKS, PLACEHOLDERS } from "@/core/words/placeholders";
import { starterWords } from "@/core/words/starters";
import { agencyClients } from "@/features/accounts";
import { loadAgencyWords, offersOf } from "@/features/words";
import { AgencyOffers } from "@/features/words/parts/AgencyOffers.client";
import { Template } from "@/features/words/parts/Template";
import { WordsEditor } from "@/features/words/parts/WordsEditor.client";
import { FIELD_NAMES, MESSAGE_NAMES, PAGE_NAMES, pieceWords } from "@/locales/pieces";
import { type AgencyAccess, requireAgency } from "@/platform/access";
import { withAgency, withClient, workFor } from "@/platform/database";
import { FilterSentence } from "@/ui/FilterSentence.client";
import { filterPart } from "@/ui/filterPart";
import { Note, Page } from "@/ui/Page";

export const metadata = { title: "Words" };

type Props = {
  params: Promise<{ agency: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
};

const PLACES = [...MESSAGES, "page"] as const;
const query = z.object({
  language: z.enum(LANGUAGES).catch("en"),
  of: z.enum(PLACES).catch("first.appointment"),
});

/** What an agency says otherwise than the starter words, and which plans of its clients would get it. */
export default async function AgencyWordsPage({ params, searchParams }: Props) {
  const { agency } = await params;
  const access = await requireAgency(agency, "change words");
  const { language, of } = query.parse(await searchParams);
  const words = await withAgency(access, (tx) => loadAgencyWords(tx));
  const rows = await offerRows(access);
  const changed = Object.keys(words).length;
  const link = (change: { language?: string | null; of?: string | null }) => {
    const wanted = { language, of, ...change };
    return `/agency/${agency}/words?${new URLSearchParams(Object.entries(wanted).filter(([, value]) => value) as [string, string][])}`;
  };
  const places = of === "page" ? PAGE_PLACES.map((place) => `page/${place}`) : FIELDS.map((field) => `${of}/${field}`);
  return (
    <Page
      margin={
        <>
          <Note title="How clients get your words">
            <p>
              New plans start with these words. A running plan keeps its own words until someone applies the new ones,
              and whatever a client has changed stays theirs.
            </p>
          </Note>
          {access.seat.group === null ? (
            <Note title="Saved replies">
              <p>
                <Link href={`/agency/${agency}/replies`}>Replies for all clients</Link>, to reviews and in
                conversations.
              </p>
            </Note>
          ) : null}
        </>
      }
    >
      <p className="mb-1 text-[14px]">
        <Link href={`/agency/${agency}`} className="button-quiet -ml-2">
          ← All clients
        </Link>
      </p>
      <h1 className="title">
        {changed === 0
          ? "Your clients start with the standard words."
          : `${capital(sayCount(changed, "passage"))} changed from the standard words.`}
      </h1>
      <Changed words={words} linkTo={(piece) => link({ language: piece.language, of: placeOf(piece.place) })} />
      {rows.length > 0 ? (
        <section className="mt-6 mb-8">
          <h2 className="text-[17px] font-semibold">
            {capital(sayCount(rows.length, "client has", "clients have"))} plans these changes would reach
          </h2>
          <AgencyOffers agency={agency} rows={rows} mayEnforce={may(access.seat, "change plans")} />
        </section>
      ) : null}
      <FilterSentence
        parts={[
          "In ",
          filterPart({
            label: "Language",
            any: "English",
            value: language === "en" ? null : language,
            choices: LANGUAGES.filter((each) => each !== "en").map((value) => ({
              value,
              words: LANGUAGE_NAMES[value],
            })),
            href: (value) => link({ language: value }),
          }),
          ", ",
          filterPart({
            label: "Place",
            any: MESSAGE_NAMES["first.appointment"],
            value: of === "first.appointment" ? null : of,
            choices: PLACES.filter((each) => each !== "first.appointment").map((value) => ({
              value,
              words: value === "page" ? "the answer page" : MESSAGE_NAMES[value],
            })),
            href: (value) => link({ of: value }),
          }),
          ".",
        ]}
      />
      <div className="max-w-[640px]">
        {places.map((place) => (
          <Piece
            key={place}
            agency={agency}
            language={language}
            place={place}
            words={words}
            mayChange={access.seat.group === null}
          />
        ))}
      </div>
    </Page>
  );
}

/** The message a place belongs to, or the answer page. */
const placeOf = (place: string) => place.slice(0, place.indexOf("/"));

/** The texts that read the agency's way, each leading to where it is changed. */
function Changed({ words, linkTo }: { words: Readonly<Record<string, string>>; linkTo: (piece: PieceName) => string }) {
  const pieces = Object.entries(words).flatMap(([key, text]) => {
    const piece = readKey(key);
    return piece ? [{ key, piece, text }] : [];
  });
  if (pieces.length === 0) return null;
  return (
    <ul className="divide-rule border-rule mt-4 divide-y border-y">
      {pieces.map(({ key, piece, text }) => (
        <li key={key} className="py-2.5">
          <Link href={`${linkTo(piece)}#${key}`} className="name-link">
            {pieceWords(key)}
          </Link>
          <p className="text-second line-clamp-2 text-[14px]">
            <Template words={text} />
          </p>
        </li>
      ))}
    </ul>
  );
}

function Piece({
  agency,
  language,
  place,
  words,
  mayChange,
}: {
  agency: string;
  language: Language;
  place: string;
  words: Readonly<Record<string, string>>;
  /** The whole agency's words are changed by those who have a seat for all of it. */
  mayChange: boolean;
}) {
  const key = pieceKey(language, place);
  const kind = kindOf(place);
  const name = place.slice(place.indexOf("/") + 1);
  const own = words[key] ?? null;
  const label = kind === "page" ? PAGE_NAMES[name as (typeof PAGE_PLACES)[number]] : FIELD_NAMES[kind];
  if (!mayChange)
    return (
      <div>
        <p className="label">{label}</p>
        <p className="whitespace-pre-line">
          <Template words={own ?? starterWords(language, place) ?? ""} />
        </p>
      </div>
    );
  return (
    <WordsEditor
      key={key}
      piece={key}
      label={label}
      words={own ?? starterWords(language, place) ?? ""}
      placeholders={PLACEHOLDERS.filter(
        (each) => kind === "text" || kind === "email" || !(LINKS as readonly string[]).includes(each),
      )}
      above={own}
      aboveWords="starter words"
      kept={{ agency }}
      isShort={kind !== "email"}
    />
  );
}

/** The plans of the clients here that would get something. */
async function offerRows(access: AgencyAccess) {
  const clients = await withAgency(access, (tx) => agencyClients(tx, access));
  const rows = await Promise.all(
    clients.map(async ({ id, name }) => {
      const scope = workFor(id);
      const offers = await withClient(scope, (tx) => offersOf(tx, scope));
      const plans = offers.map(({ planId, plan, pieces }) => ({
        key: `${id}:${planId}`,
        name: plan,
        texts: pieces.length,
      }));
      return { client: name, plans };
    }),
  );
  return rows.filter(({ plans }) => plans.length > 0);
}
