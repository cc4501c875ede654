import { type Background, PICTURE } from "@/core/words/namedPicture";

/** The backgrounds of pictures with a name, as SVG of 960 by 540. Words stand in their calm upper half. */

const { width: W, height: H } = PICTURE;

const sheet = (fill: string, drawn: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${W}" height="${H}" viewBox="0 0 ${W} ${H}"><rect width="${W}" height="${H}" fill="${fill}"/>${drawn}</svg>`;

const path = (d: string, fill: string) => `<path d="${d}" fill="${fill}"/>`;

/** A pointed leaf at a place, turned by so many degrees. */
const leaf = (x: number, y: number, turn: number, length: number, fill: string) =>
  `<g transform="translate(${x} ${y}) rotate(${turn})">${path(`M0 0C${length * 0.25} ${-length * 0.32} ${length * 0.75} ${-length * 0.3} ${length} 0C${length * 0.75} ${length * 0.3} ${length * 0.25} ${length * 0.32} 0 0Z`, fill)}<path d="M6 0H${length * 0.9}" stroke="#F7F5EE" stroke-width="2" opacity=".6"/></g>`;

/** A stem of leaves that leans from a corner into the picture. */
function sprig(x: number, y: number, turn: number, fills: readonly string[]): string {
  const leaves = Array.from({ length: 6 }, (_, index) => {
    const side = index % 2 === 0 ? -38 : 38;
    return leaf(30 + index * 38, 0, side, 78 - index * 6, fills[index % fills.length]);
  });
  return `<g transform="translate(${x} ${y}) rotate(${turn})"><path d="M0 0H272" stroke="#5E7257" stroke-width="4" stroke-linecap="round"/>${leaves.join("")}</g>`;
}

/** A band of even waves from one edge to the other, filled down to the foot. */
function waves(y: number, height: number, length: number, fill: string): string {
  let d = `M${-length} ${y}`;
  for (let x = -length; x < W + length; x += length) d += `q${length / 4} ${-height} ${length / 2} 0t${length / 2} 0`;
  return path(`${d}V${H}H${-length}Z`, fill);
}

function bunting(): string {
  const fills = ["#B4516F", "#E0A53C", "#4F8A84", "#6B5B95", "#D9774C"];
  const line = (y: number, sag: number, from: number) => {
    const flags = Array.from({ length: 11 }, (_, index) => {
      const at = (index + 0.5) / 11;
      const [x, top] = [at * W, y + 4 * sag * at * (1 - at)];
      const lean = (1 - 2 * at) * 12;
      return `<g transform="translate(${x} ${top}) rotate(${lean})">${path("M-30 0H30L0 62Z", fills[(index + from) % fills.length])}</g>`;
    });
    return `<path d="M-10 ${y}Q${W / 2} ${y + 2 * sag} ${W + 10} ${y}" stroke="#6F6577" stroke-width="3" fill="none"/>${flags.join("")}`;
  };
  return line(18, 34, 0) + line(H - 118, 26, 2);
}

function pot(x: number, width: number, fill: string, leaves: string): string {
  const top = 410;
  return `${leaves}${path(`M${x - width / 2} ${top}H${x + width / 2}L${x + width * 0.36} 498H${x - width * 0.36}Z`, fill)}<rect x="${x - width / 2 - 6}" y="${top - 6}" width="${width + 12}" height="22" rx="6" fill="${fill}"/>`;
}

const fan = (x: number, fills: readonly string[], length: number) =>
  [-150, -125, -100, -80, -55, -30].map((turn, index) => leaf(x, 410, turn, length, fills[index % 2])).join("");

function stones(): string {
  const shapes: [number, number, number, number, string][] = [
    [90, 500, 120, 66, "#8E8A94"],
    [250, 520, 110, 60, "#B9B2A6"],
    [400, 506, 96, 58, "#6F7A80"],
    [560, 522, 128, 64, "#A99F92"],
    [720, 502, 108, 64, "#8A8F86"],
    [880, 516, 120, 70, "#9C948F"],
    [170, 448, 74, 40, "#A7A29B"],
    [640, 452, 82, 42, "#7C858A"],
    [800, 440, 60, 34, "#B7AFA4"],
  ];
  return shapes
    .map(
      ([x, y, across, down, fill]) =>
        `<ellipse cx="${x}" cy="${y}" rx="${across}" ry="${down}" fill="${fill}"/><path d="M${x - across * 0.6} ${y - down * 0.35}Q${x} ${y - down * 0.95} ${x + across * 0.5} ${y - down * 0.5}" stroke="#F4F1EA" stroke-width="4" fill="none" opacity=".35" stroke-linecap="round"/>`,
    )
    .join("");
}

export const DRAWN: Record<Background, string> = {
  hills: sheet(
    "#F6E9DC",
    `<circle cx="744" cy="336" r="84" fill="#F0B45B"/>${path("M0 400Q180 300 400 376T960 330V540H0Z", "#9DB6A0")}${path("M0 450Q240 360 520 430T960 400V540H0Z", "#6F937F")}${path("M0 506Q300 430 600 486T960 470V540H0Z", "#47705F")}`,
  ),
  leaves: sheet(
    "#F4F3E9",
    sprig(-20, 548, -38, ["#6F937F", "#8FAE8B"]) +
      sprig(980, 548, -142, ["#8FAE8B", "#557A63"]) +
      sprig(-30, -6, 34, ["#A9C09F", "#8FAE8B"]) +
      sprig(990, -6, 146, ["#8FAE8B", "#A9C09F"]),
  ),
  waves: sheet(
    "#E9F1F2",
    waves(352, 34, 240, "#BBD6DA") +
      waves(400, 30, 200, "#86B3BC") +
      waves(446, 28, 260, "#4F8A98") +
      waves(496, 22, 180, "#2F6676"),
  ),
  bunting: sheet("#FBF4E6", bunting()),
  window: sheet(
    "#EEE6DA",
    `<rect x="60" y="30" width="840" height="392" rx="14" fill="#FBFAF5" stroke="#C9BBA5" stroke-width="14"/>` +
      `<rect x="0" y="498" width="960" height="42" fill="#B08B66"/><rect x="0" y="494" width="960" height="12" fill="#C7A27A"/>` +
      pot(180, 110, "#B85C45", fan(180, ["#5F8A6B", "#7FA680"], 120)) +
      pot(480, 88, "#5D7C8F", fan(480, ["#8FAE6B", "#6E9457"], 88)) +
      pot(786, 120, "#C98A3D", fan(786, ["#4F7A63", "#74A083"], 128)),
  ),
  stones: sheet("#EFF0EC", stones()),
};
