import { SaxesParser } from "saxes";

/**
 * An SVG reduced to shapes in colours: what draws pictures, text, filters, masks, patterns, scripts or anything from
 * elsewhere is left out. What is left costs no more to draw than its own size.
 */

const ELEMENTS = new Set([
  "svg",
  "g",
  "path",
  "rect",
  "circle",
  "ellipse",
  "line",
  "polyline",
  "polygon",
  "defs",
  "linearGradient",
  "radialGradient",
  "stop",
  "clipPath",
]);

const ATTRIBUTES = new Set(
  "id class d x y x1 y1 x2 y2 cx cy r rx ry fx fy width height viewBox preserveAspectRatio points transform offset gradientUnits gradientTransform spreadMethod clipPathUnits clip-path clip-rule fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-linecap stroke-linejoin stroke-miterlimit stroke-dasharray opacity stop-color stop-opacity color display visibility".split(
    " ",
  ),
);

/** Declarations of a `style` that are the same as attributes, and name nothing from elsewhere. */
const DECLARATION = /^\s*([a-z-]{1,30})\s*:\s*([^;{}<>@\\]{1,200})\s*$/;

const MAX_ELEMENTS = 10_000;
const MAX_DEPTH = 60;
/** Gradients and clips of the same file; nothing else may be named. */
const NAMED = /url\(\s*['"]?(?!#)/i;

/** The reduced SVG; null for what is no SVG, or is larger than any logo. */
export function plainSvg(text: string): string | null {
  if (/<!(?:DOCTYPE|ENTITY)/i.test(text)) return null;
  const parts: string[] = [];
  const open: boolean[] = [];
  let elements = 0;
  let isBroken = false;
  const parser = new SaxesParser({ xmlns: false });
  parser.on("error", () => {
    isBroken = true;
  });
  parser.on("opentag", ({ name, attributes }) => {
    const local = name.replace(/^svg:/, "");
    const isKept = ELEMENTS.has(local) && open.every(Boolean) && (open.length > 0 || local === "svg");
    elements += 1;
    if (elements > MAX_ELEMENTS || open.length > MAX_DEPTH) isBroken = true;
    if (isKept && !isBroken) parts.push(`<${local}${attributesOf(local, attributes as Record<string, string>)}>`);
    open.push(isKept);
  });
  parser.on("closetag", ({ name }) => {
    if (open.pop() && !isBroken) parts.push(`</${name.replace(/^svg:/, "")}>`);
  });
  try {
    parser.write(text).close();
  } catch {
    return null;
  }
  return isBroken || !parts[0]?.startsWith("<svg") ? null : parts.join("");
}

function attributesOf(element: string, attributes: Record<string, string>): string {
  const kept = new Map<string, string>();
  for (const declaration of (attributes.style ?? "").split(";")) {
    const [, name, value] = DECLARATION.exec(declaration) ?? [];
    if (name && ATTRIBUTES.has(name)) kept.set(name, value);
  }
  for (const [name, value] of Object.entries(attributes))
    if (ATTRIBUTES.has(name) && !kept.has(name)) kept.set(name, value);
  const written = [...kept]
    .filter(([, value]) => !NAMED.test(value))
    .map(
      ([name, value]) =>
        ` ${name}="${value.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll('"', "&quot;")}"`,
    );
  return `${element === "svg" ? ' xmlns="http://www.w3.org/2000/svg"' : ""}${written.join("")}`;
}
