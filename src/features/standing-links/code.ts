import QRCode from "qrcode";
import { standingLink } from "@/platform/customerLinks";

/** The codes of standing links: with the clear edge of four squares that readers need (ISO/IEC 18004). */

const OPTIONS = { margin: 4, errorCorrectionLevel: "Q" } as const;

/** A code as SVG. */
export const codeSvg = (token: string): Promise<string> =>
  QRCode.toString(standingLink(token), { ...OPTIONS, type: "svg" });

/** A code as PNG of 1,200 pixels. */
export const codePng = (token: string): Promise<Buffer> =>
  QRCode.toBuffer(standingLink(token), { ...OPTIONS, width: 1200 });

/** A code as the address of a picture that needs no request. */
export const codeImage = async (token: string): Promise<string> =>
  `data:image/svg+xml;base64,${Buffer.from(await codeSvg(token)).toString("base64")}`;
