/** Words that end all texts when they are the whole message, as carriers and rules in several countries have them. */
const STOP = new Set([
  "stop",
  "stopall",
  "stop all",
  "unsubscribe",
  "cancel",
  "end",
  "quit",
  "optout",
  "opt out",
  "arret",
  "arrêt",
  "baja",
  "parar",
  "stopp",
]);
const START = new Set(["start", "unstop", "yes start"]);

const bare = (text: string) =>
  text
    .toLowerCase()
    .replace(/[^\p{L}\s]/gu, " ")
    .replace(/\s+/g, " ")
    .trim();

/** What an incoming text asks for: to be left alone, to be written to again, or neither. */
export function readWish(text: string): "stop" | "start" | null {
  const words = bare(text);
  if (STOP.has(words) || /^(?:please )?stop(?: please| texting(?: me)?| texts| it)?$/.test(words)) return "stop";
  return START.has(words) ? "start" : null;
}
