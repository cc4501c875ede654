import { DAY, HOUR } from "../time/zone";

/** Whose a text is that came to a number which several clients share. */

/** A client with that number, and when it last wrote to whoever wrote now, and last heard from them; null for never. */
export type SharingClient = { clientId: string; name: string; wroteAt: number | null; heardAt: number | null };

/** A question that was put to the writer and is not answered yet: the clients in the order of their figures. */
export type OpenQuestion = { choices: readonly string[]; askedAt: number };

export type Route =
  | { kind: "client"; clientId: string; isAnswer: boolean }
  /** Nobody can tell: the writer is asked, unless they were a moment ago. */
  | { kind: "unclear"; asks: boolean };

/** Two clients that wrote within so long of each other may both be meant. */
const CLOSE = 12 * HOUR;

/** Which client is meant is asked at most once in so long. */
const ASKED_AGAIN_AFTER = DAY;

/**
 * Who is meant: the one client that has the number; what the writer answers to an open question; else who wrote to them
 * last. Where two wrote close to each other it is the one with whom they have been writing since, or nobody can tell.
 */
export function routeText(
  clients: readonly SharingClient[],
  body: string,
  question: OpenQuestion | null,
  now: number,
): Route {
  if (clients.length === 1) return { kind: "client", clientId: clients[0].clientId, isAnswer: false };
  const answered = question && now - question.askedAt < 7 * DAY ? chosenBy(body, clients, question) : null;
  if (answered) return { kind: "client", clientId: answered, isAnswer: true };
  const wrote = clients.filter(({ wroteAt }) => wroteAt !== null).sort((a, b) => (b.wroteAt ?? 0) - (a.wroteAt ?? 0));
  const [last, before] = wrote;
  const isClear =
    last &&
    (!before ||
      (last.wroteAt ?? 0) - (before.wroteAt ?? 0) >= CLOSE ||
      (last.heardAt ?? 0) > Math.max(before.wroteAt ?? 0, before.heardAt ?? 0));
  if (isClear) return { kind: "client", clientId: last.clientId, isAnswer: false };
  return { kind: "unclear", asks: !question || now - question.askedAt >= ASKED_AGAIN_AFTER };
}

const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();

/** The client that a message names by its figure, or by enough of its name; null where it names none, or two. */
export function chosenBy(
  body: string,
  clients: readonly Pick<SharingClient, "clientId" | "name">[],
  { choices }: Pick<OpenQuestion, "choices">,
): string | null {
  const said = plain(body);
  const figure = /^(?:number |no |nr )?(\d{1,2})$/.exec(said);
  if (figure) return choices[Number(figure[1]) - 1] ?? null;
  if (said.length < 3 || said.length > 80) return null;
  const named = clients.filter(({ name }) => {
    const own = plain(name);
    return own === said || own.startsWith(`${said} `) || said.includes(own);
  });
  return named.length === 1 && choices.includes(named[0].clientId) ? named[0].clientId : null;
}
