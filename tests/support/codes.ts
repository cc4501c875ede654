import { execFileSync } from "node:child_process";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { createCanvas } from "@napi-rs/canvas";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

/** Printed codes, read back from the very files that are printed. */

export type DrawnPage = { width: number; height: number; words: string; pixels: Uint8ClampedArray };

/** The pages of a PDF as pictures, with their words. `scale` 1 is 72 dots an inch. */
export async function drawPdf(pdf: Uint8Array, scale = 2): Promise<DrawnPage[]> {
  const document = await getDocument({
    data: new Uint8Array(pdf),
    standardFontDataUrl: "node_modules/pdfjs-dist/standard_fonts/",
    verbosity: 0,
  }).promise;
  return Promise.all(
    Array.from({ length: document.numPages }, async (_, index) => {
      const page = await document.getPage(index + 1);
      const viewport = page.getViewport({ scale });
      const canvas = createCanvas(viewport.width, viewport.height);
      const context = canvas.getContext("2d");
      await page.render({ canvasContext: context as never, viewport }).promise;
      const words = (await page.getTextContent()).items.map((item) => ("str" in item ? item.str : "")).join(" ");
      const { width, height } = canvas;
      return { width, height, words, pixels: context.getImageData(0, 0, width, height).data };
    }),
  );
}

/**
 * What the first code in a picture says; empty where there is none. Read by a process of its own: within the context of
 * Jest the reader takes half a minute.
 */
export function readCode(pixels: Uint8ClampedArray, width: number, height: number): string {
  const program = join(dirname(fileURLToPath(import.meta.url)), "readCode.mjs");
  return execFileSync("node", [program, String(width), String(height)], {
    input: Buffer.from(pixels.buffer, pixels.byteOffset, pixels.byteLength),
    encoding: "utf8",
  });
}
