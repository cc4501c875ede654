/**
 * A text in small letters without accents, for comparing what people typed with words written the same way: "Arrêt" and
 * "arret" are one. Letters that no accent makes (ł, ß) become those that people type instead.
 */
export function foldLetters(text: string): string {
  return text.toLowerCase().replace(/ł/g, "l").replace(/ß/g, "ss").normalize("NFKD").replace(/\p{M}/gu, "");
}
