/**
 * Sends one business's bombs, one after the other, until it is ended: a process of its own, since whoever sends them is
 * another machine, and what is measured beside them must not share its time.
 *
 * argv: the address of the application, the session's cookie, the slug, and which bomb.
 */
import { workbookOf } from "./archive";

const [, , base, cookie, slug, which] = process.argv;

const workbook = (rows: string) => workbookOf([{ name: "A", rows }]);

type Bomb = () => Promise<Response>;

const list =
  (name: string, bytes: Uint8Array): Bomb =>
  () => {
    const form = new FormData();
    form.append("file", new File([Buffer.from(bytes)], name));
    form.append("key", crypto.randomUUID());
    return fetch(`${base}/c/${slug}/people/import/upload`, { method: "POST", headers: { cookie }, body: form });
  };

const BOMBS: Record<string, () => Bomb> = {
  rows: () => list("rows.xlsx", workbook("<row/>".repeat(5_000_000))),
  cell: () => list("cell.xlsx", workbook(`<row><c t="str"><v>${"x".repeat(100_000_000)}</v></c></row>`)),
  quotes: () => list("quotes.csv", Buffer.alloc(8_000_000, '"')),
  picture: () => () => {
    const form = new FormData();
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="9000" height="9000"><filter id="f"><feGaussianBlur stdDeviation="900"/></filter><rect width="9000" height="9000" filter="url(#f)"/></svg>';
    form.append("picture", new File([svg], "x.svg", { type: "image/svg+xml" }));
    return fetch(`${base}/c/${slug}/set-up/pictures/logo`, { method: "POST", headers: { cookie }, body: form });
  },
  "sign-in": () => () =>
    fetch(`${base}/sign-in`, {
      method: "POST",
      headers: { "content-type": "multipart/form-data; boundary=x" },
      body: "--x",
      redirect: "manual",
    }),
};

const bomb = BOMBS[which]();
process.stdout.write("ready\n");
for (;;) {
  const response = await bomb().catch(() => null);
  await response?.arrayBuffer().catch(() => null);
  process.stdout.write(`${response?.status ?? "none"}\n`);
}
