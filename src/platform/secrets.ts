import {
  createCipheriv,
  createDecipheriv,
  createHash,
  createHmac,
  hkdfSync,
  randomBytes,
  timingSafeEqual,
} from "node:crypto";
import { environment } from "./environment";

/** Secrets: encryption at rest, unguessable links, and signatures after the Standard Webhooks specification. */

/** Without look-alikes, and without vowels, so that no link spells a word. */
const LETTERS = "23456789bcdfghjkmnpqrstvwxyzBCDFGHJKLMNPQRSTVWXYZ";

/** The unguessable part of a link: 14 letters, 78 bits. */
export function newToken(length = 14): string {
  let token = "";
  while (token.length < length) {
    for (const byte of randomBytes(length * 2)) {
      if (byte < LETTERS.length * 4 && token.length < length) token += LETTERS[byte % LETTERS.length];
    }
  }
  return token;
}

const keys = new Map<string, Buffer>();

function keyFor(purpose: string): Buffer {
  const { ESTIMA_SECRET } = environment();
  const name = `${purpose} ${ESTIMA_SECRET}`;
  let key = keys.get(name);
  if (!key) {
    key = Buffer.from(hkdfSync("sha256", ESTIMA_SECRET, "estima", purpose, 32));
    keys.set(name, key);
  }
  return key;
}

/** AES-256-GCM; gives nonce, tag and ciphertext in base64url. */
export function encrypt(plain: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv("aes-256-gcm", keyFor("at rest"), nonce);
  const sealed = Buffer.concat([cipher.update(plain, "utf8"), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString("base64url");
}

/** Undoes `encrypt`; throws when the text was changed or another secret sealed it. */
export function decrypt(sealed: string): string {
  const bytes = Buffer.from(sealed, "base64url");
  const decipher = createDecipheriv("aes-256-gcm", keyFor("at rest"), bytes.subarray(0, 12));
  decipher.setAuthTag(bytes.subarray(12, 28));
  return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString("utf8");
}

/** A keyed short tag that lets a mail address prove it came from us. */
export function tagFor(purpose: string, value: string): string {
  return createHmac("sha256", keyFor(purpose)).update(value).digest("base64url").slice(0, 16);
}

/** Equal or not, in constant time. */
export function sameSecret(a: string, b: string): boolean {
  const left = createHash("sha256").update(a).digest();
  const right = createHash("sha256").update(b).digest();
  return timingSafeEqual(left, right);
}

/** The secret of a signed hook of our own ("whsec_..."), the same each time: it is kept nowhere. */
export function hookSecret(purpose: string, value: string): string {
  return `whsec_${createHmac("sha256", keyFor(purpose)).update(value).digest("base64")}`;
}
