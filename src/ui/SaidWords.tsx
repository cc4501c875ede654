import type { Polarity } from "@/core/themes/themes";

/** What is marked: characters of the words, from 0. */
export type Mark = { theme: string; polarity: Polarity; from: number; to: number };

/** A review's own words, with what it names marked: happier in green, unhappier in red, each also said to who hears it. */
export function SaidWords({ words, named }: { words: string; named: readonly Mark[] }) {
  return (
    <>
      “
      {piecesOf(words, named).map((piece) => (piece.polarity ? <Marked key={piece.from} piece={piece} /> : piece.text))}
      ”
    </>
  );
}

type Piece = { text: string; from: number; polarity: Polarity | null; themes: string[] };

function Marked({ piece }: { piece: Piece }) {
  const tint = piece.polarity === "happy" ? "bg-leaf-tint" : "bg-vermilion-tint";
  return (
    <mark className={`${tint} rounded-[3px] text-inherit`} title={piece.themes.join(", ")}>
      {piece.text}
      <span className="sr-only">
        {` (${piece.polarity === "happy" ? "pleased" : "unhappy"}: ${piece.themes.join(", ")})`}
      </span>
    </mark>
  );
}

/** The words cut where something named begins and ends; a clause that names several things is marked once. */
function piecesOf(words: string, named: readonly Mark[]): Piece[] {
  const spans = new Map<string, { from: number; to: number; polarity: Polarity; themes: string[] }>();
  for (const { from, to, polarity, theme } of named) {
    const before = spans.get(`${from}`);
    if (before) {
      before.themes.push(theme);
      if (polarity === "unhappy") before.polarity = polarity;
    } else spans.set(`${from}`, { from, to, polarity, themes: [theme] });
  }
  const pieces: Piece[] = [];
  let at = 0;
  for (const { from, to, polarity, themes } of [...spans.values()].sort((a, b) => a.from - b.from)) {
    if (from < at) continue;
    if (from > at) pieces.push({ text: words.slice(at, from), from: at, polarity: null, themes: [] });
    pieces.push({ text: words.slice(from, to), from, polarity, themes });
    at = to;
  }
  if (at < words.length) pieces.push({ text: words.slice(at), from: at, polarity: null, themes: [] });
  return pieces;
}
