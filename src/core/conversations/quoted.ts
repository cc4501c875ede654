/** What somebody wrote, and what their mail program put below it of what they answer. */
export type Letter = { words: string; quoted: string };

/** Lines with which mail programs begin what is answered, in the languages that customers write. */
const BEGINS = [
  /^-{2,}\s*(?:original message|forwarded message|ursprüngliche nachricht|mensaje original|message d’origine|message d'origine|mensagem original|wiadomość oryginalna)\s*-{2,}$/i,
  /^_{8,}$/,
  // "On Tue, 24 Nov 2026 at 14:05, Bramble Lane Vets <hello@...> wrote:", on one line or two.
  /^(?:on|el|le|am|em|a|dnia|w dniu)[\s,].{4,200}(?<!\p{L})(?:wrote|escribió|a écrit|schrieb|escreveu|napisał(?:\(a\)|a)?)(?!\p{L}).{0,80}:\s*$/iu,
  /^(?:from|von|de|od)\s*:\s.{0,120}[@<].*$/i,
];

const isQuoted = (line: string) => /^\s*>/.test(line);

/** Parts a mail from what it answers. What somebody wrote between quoted lines stays with their words. */
export function splitQuoted(text: string): Letter {
  const lines = text.replace(/\r\n?/g, "\n").split("\n");
  let end = lines.length;
  for (let at = 0; at < lines.length; at++) {
    const [line, next] = [lines[at].trim(), (lines[at + 1] ?? "").trim()];
    if (BEGINS.some((begins) => begins.test(line) || begins.test(`${line} ${next}`))) {
      end = at;
      break;
    }
  }
  // Without such a line: a last block of quoted lines alone.
  if (end === lines.length) {
    let first = lines.length;
    while (first > 0 && (isQuoted(lines[first - 1]) || lines[first - 1].trim() === "")) first -= 1;
    if (lines.slice(first).some(isQuoted)) end = first;
  }
  const words = lines.slice(0, end).join("\n").trim();
  // Who only quotes has written that.
  return words === "" ? { words: text.trim(), quoted: "" } : { words, quoted: lines.slice(end).join("\n").trim() };
}
