import { join } from "node:path";
import { Document, Font, Image, Page, Path, renderToBuffer, StyleSheet, Svg, Text, View } from "@react-pdf/renderer";
import QRCode from "qrcode";
import type { Poster } from "./posterKinds";

/** A standing link on paper: a poster, a card for the table, or a sheet of ten cards to cut out. */

let isReady = false;
/** The fonts that ship with Estima, letters beyond Western Europe in files of their own. */
function registerFonts(): void {
  if (isReady) return;
  const file = (part: string) =>
    join(process.cwd(), `node_modules/@fontsource/hanken-grotesk/files/hanken-grotesk-${part}-normal.woff`);
  for (const [family, part] of [
    ["Own", "latin"],
    ["More", "latin-ext"],
  ])
    Font.register({ family, fonts: [{ src: file(`${part}-400`) }, { src: file(`${part}-600`), fontWeight: 600 }] });
  Font.registerHyphenationCallback((word) => [word]);
  isReady = true;
}

const FAMILY = ["Own", "More"] as unknown as string;
const INK = "#221A2C";

/** Millimetres in points, of which an inch has 72. */
const mm = (length: number) => (length * 72) / 25.4;

/** Draws it as a PDF. */
export async function renderPoster(poster: Poster): Promise<Buffer> {
  registerFonts();
  const code = codeOf(poster.link);
  return renderToBuffer(
    <Document title={`${poster.title} ${poster.business}`} author={poster.business} language={poster.language}>
      {poster.format === "cards" ? <Cards poster={poster} code={code} /> : <Sheet poster={poster} code={code} />}
    </Document>,
  );
}

type Code = { path: string; size: number };

/** A code's dark squares as one path, with the four clear squares around it that readers need (ISO/IEC 18004). */
function codeOf(link: string): Code {
  const { modules } = QRCode.create(link, { errorCorrectionLevel: "Q" });
  const quiet = 4;
  let path = "";
  for (let row = 0; row < modules.size; row++)
    for (let column = 0; column < modules.size; column++)
      if (modules.get(row, column)) path += `M${column + quiet} ${row + quiet}h1v1h-1z`;
  return { path, size: modules.size + 2 * quiet };
}

function QrCode({ code, size }: { code: Code; size: number }) {
  return (
    <Svg viewBox={`0 0 ${code.size} ${code.size}`} style={{ width: size, height: size }}>
      <Path d={`M0 0h${code.size}v${code.size}h-${code.size}z`} fill="#FFFFFF" />
      <Path d={code.path} fill="#000000" />
    </Svg>
  );
}

function Mark({ poster, height }: { poster: Poster; height: number }) {
  const { logo, business, colour } = poster;
  if (logo)
    return (
      <Image src={logo.png} style={{ height, width: Math.min(height * 4, (height * logo.width) / logo.height) }} />
    );
  const box = { width: height, height, borderRadius: height / 4, backgroundColor: colour };
  return (
    <View style={{ flexDirection: "row", alignItems: "center", gap: height / 3 }}>
      <View style={{ ...box, alignItems: "center", justifyContent: "center" }}>
        <Text style={{ color: "#FFFFFF", fontWeight: 600, fontSize: height / 2 }}>{business.slice(0, 1)}</Text>
      </View>
      <Text style={{ fontWeight: 600, fontSize: height / 2.4 }}>{business}</Text>
    </View>
  );
}

const styles = StyleSheet.create({
  page: { fontFamily: FAMILY, color: INK, backgroundColor: "#FFFFFF" },
  middle: { alignItems: "center", textAlign: "center" },
});

/** A whole page, whose type grows with it. */
function Sheet({ poster, code }: { poster: Poster; code: Code }) {
  const isLarge = poster.format === "a4";
  const unit = isLarge ? 2 : 1;
  // Long words of one's own get smaller type, so that all of it stays on one page.
  const title = poster.title.length > 40 ? 17 : poster.title.length > 22 ? 21 : 27;
  return (
    <Page size={isLarge ? "A4" : "A6"} style={{ ...styles.page, padding: mm(9) * unit }}>
      <View style={{ height: mm(3) * unit, backgroundColor: poster.colour, marginBottom: mm(7) * unit }} />
      <View style={{ ...styles.middle, flexGrow: 1, justifyContent: "space-between" }}>
        <Mark poster={poster} height={mm(11) * unit} />
        <Text style={{ fontSize: title * unit, fontWeight: 600, lineHeight: 1.15 }}>{poster.title}</Text>
        <QrCode code={code} size={mm(56) * unit} />
        <Text style={{ fontSize: 10.5 * unit, lineHeight: 1.35 }}>{poster.says}</Text>
        <Text style={{ fontSize: 6.5 * unit, color: "#5A5364" }}>{poster.typed}</Text>
      </View>
    </Page>
  );
}

/** Ten cards of 85 by 54 millimetres on A4, with hairlines to cut along. */
function Cards({ poster, code }: { poster: Poster; code: Code }) {
  return (
    <Page size="A4" style={{ ...styles.page, paddingHorizontal: mm(20), paddingVertical: mm(13.5) }}>
      <View style={{ flexDirection: "row", flexWrap: "wrap", width: mm(170) }}>
        {Array.from({ length: 10 }, (_, index) => (
          <View
            key={index}
            style={{
              width: mm(85),
              height: mm(54),
              border: "0.4 solid #B9BCB0",
              padding: mm(4),
              flexDirection: "row",
              alignItems: "center",
              gap: mm(3),
            }}
          >
            <QrCode code={code} size={mm(36)} />
            <View style={{ flex: 1, gap: mm(2.2) }}>
              {poster.logo ? (
                <Mark poster={poster} height={mm(7)} />
              ) : (
                <Text style={{ fontSize: 8, fontWeight: 600, color: poster.colour }}>{poster.business}</Text>
              )}
              <Text style={{ fontSize: poster.title.length > 22 ? 10 : 13, fontWeight: 600, lineHeight: 1.15 }}>
                {poster.title}
              </Text>
              <Text style={{ fontSize: 7, lineHeight: 1.3 }}>{poster.says}</Text>
            </View>
          </View>
        ))}
      </View>
    </Page>
  );
}
