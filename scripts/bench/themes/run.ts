import { readThemes } from "@/core/themes/read";
import { THEMES } from "@/core/themes/themes";
import { LABELLED_SETS, type LabelledSet, labelledTexts } from "./labelled";
import { evaluationTexts, measure, type Score } from "./texts";

const percent = (share: number) => `${Math.round(share * 100)} %`;
const told = ({ precision, recall }: Score) => `${precision.toFixed(2)} / ${recall.toFixed(2)}`;

/** How well each set of labelled texts is read: precision and recall, altogether and by theme. */
function tellLabelled(): void {
  for (const set of Object.keys(LABELLED_SETS) as LabelledSet[]) {
    const texts = labelledTexts(set);
    const { language } = LABELLED_SETS[set];
    const measured = measure(texts, (text) => readThemes(text, language));
    console.log(`themes, ${set}: ${told(measured)}, ${percent(measured.whole)} of ${texts.length} texts wholly right`);
    console.log(`  ${THEMES.map((theme) => `${theme} ${told(measured.byTheme[theme])}`).join(", ")}`);
  }
}

/** How well what reviews name is read, and how fast on one core. */
export function tellThemes(): void {
  tellLabelled();
  for (const [language, precision, recall] of [
    ["en", 0.9, 0.85],
    ["es", 0.8, 0.8],
  ] as const) {
    const measured = measure(evaluationTexts(language, 2000), (text) => readThemes(text, language));
    console.log(
      `themes with polarity in ${language}: precision ${measured.precision.toFixed(3)} (goal ${precision}), recall ${measured.recall.toFixed(3)} (goal ${recall}), of 2,000 texts`,
    );
  }
  const texts = evaluationTexts("en", 10_000, 3).map(({ text }) => text);
  const began = performance.now();
  let found = 0;
  for (const text of texts) found += readThemes(text, "en").length;
  const seconds = (performance.now() - began) / 1000;
  console.log(
    `reviews read for themes: ${Math.round(texts.length / seconds).toLocaleString("en-GB")} a second and core (${texts.length.toLocaleString("en-GB")} texts, ${found.toLocaleString("en-GB")} things named)`,
  );
}
