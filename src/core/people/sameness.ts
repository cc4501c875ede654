/** Whether two records may be one person. Names are compared as people mishear and mistype them. */

export type Named = { given: string; family: string };

const fold = (text: string) =>
  text
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, "");

/** Short forms that stand for one another; each line is one name. */
const SHORT_FORMS = [
  "alexander alex sandy xander",
  "alexandra alex sandra lexi",
  "andrew andy drew",
  "anthony tony",
  "benjamin ben",
  "catherine katherine kathryn cathy kate katie kathy",
  "charles charlie chuck",
  "christopher chris",
  "christine christina chris tina",
  "daniel dan danny",
  "david dave",
  "deborah debbie deb",
  "edward ed eddie ted",
  "elizabeth liz beth lizzie betty eliza",
  "frederick fred freddie",
  "gregory greg",
  "isabella isabel bella",
  "jacqueline jackie",
  "james jim jimmy jamie",
  "jennifer jen jenny",
  "jessica jess",
  "john jack johnny",
  "jonathan jon",
  "joseph joe",
  "joshua josh",
  "kenneth ken",
  "margaret maggie meg peggy",
  "matthew matt",
  "michael mike mick",
  "nicholas nick",
  "patricia pat patty tricia",
  "patrick pat paddy",
  "peter pete",
  "philip phil",
  "rebecca becky",
  "richard rick dick",
  "robert rob bob bobby",
  "samuel sam",
  "samantha sam",
  "stephen steven steve",
  "susan sue",
  "theodore theo ted",
  "thomas tom",
  "timothy tim",
  "victoria vicky tori",
  "william will bill billy",
  "josefine josie",
  "rosalind ros rosie",
].map((line) => line.split(" "));

const FORMS = new Map<string, Set<number>>();
for (const [index, names] of SHORT_FORMS.entries()) {
  for (const name of names) FORMS.set(name, (FORMS.get(name) ?? new Set()).add(index));
}

/**
 * Letters to add, drop, change or swap with a neighbour to make one word of the other (optimal string alignment), up
 * to `most`.
 */
export function editDistance(a: string, b: string, most = 3): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, index) => index);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j], before[j - 2] + 1);
    }
    before = last;
    last = row;
  }
  return Math.min(last[b.length], most + 1);
}

/** Whether two given names, folded, are forms of one: Bob and Robert. */
export function isShortForm(a: string, b: string): boolean {
  const [forms, others] = [FORMS.get(a), FORMS.get(b)];
  return Boolean(forms && others && [...forms].some((form) => others.has(form)));
}

/** Whether two words, folded, differ by a slip of the keys. */
export function slips(a: string, b: string): boolean {
  return Math.min(a.length, b.length) >= 4 && editDistance(a, b, 1) <= 1;
}

/**
 * The same given name, an initial of it, a short form, or a slip of the keys. Nothing is close to an empty name but
 * another.
 */
export function closeGiven(a: string, b: string): boolean {
  const [x, y] = [fold(a.split(" ")[0] ?? ""), fold(b.split(" ")[0] ?? "")];
  if (x === y) return true;
  if (!x || !y) return false;
  if (x.length === 1 || y.length === 1) return x[0] === y[0];
  return isShortForm(x, y) || slips(x, y);
}

/** The same family name, one part of a double name, or a slip of the keys. An empty one is close to any. */
export function closeFamily(a: string, b: string): boolean {
  const [x, y] = [fold(a), fold(b)];
  if (!x || !y || x === y) return true;
  const parts = (text: string) =>
    text
      .split(/[\s-]+/)
      .map(fold)
      .filter((part) => part.length > 2);
  if (parts(a).some((part) => part === y) || parts(b).some((part) => part === x)) return true;
  return Math.min(x.length, y.length) >= 4 && editDistance(x, y, 1) <= 1;
}

/**
 * How two names stand to each other: the same, close (slips, short forms, an initial), swapped (first and last), or
 * different.
 */
export function compareNames(a: Named, b: Named): "same" | "close" | "swapped" | "different" {
  if (fold(a.given) === fold(b.given) && fold(a.family) === fold(b.family)) return "same";
  if (a.family && b.family && closeGiven(a.given, b.family) && closeGiven(a.family, b.given)) return "swapped";
  return closeGiven(a.given, b.given) && closeFamily(a.family, b.family) ? "close" : "different";
}

/** Two numbers that differ by one digit or by two neighbours that changed places. */
export function slippedDigits(a: string, b: string): boolean {
  if (a === b) return false;
  if (a.length !== b.length) return false;
  const differing = [...a].flatMap((digit, index) => (digit === b[index] ? [] : [index]));
  if (differing.length === 1) return true;
  return (
    differing.length === 2 &&
    differing[1] === differing[0] + 1 &&
    a[differing[0]] === b[differing[1]] &&
    a[differing[1]] === b[differing[0]]
  );
}
