// Reads a QR code from raw pixels (RGBA) on the standard input; its width and height are the arguments.
import { readFileSync } from "node:fs";
import jsQR from "jsqr";

const [width, height] = process.argv.slice(2).map(Number);
const read = jsQR.default ?? jsQR;
process.stdout.write(read(new Uint8ClampedArray(readFileSync(0)), width, height)?.data ?? "");
