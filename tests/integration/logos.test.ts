import sharp from "sharp";
import { GET } from "@/app/images/[id]/route";
import { readClientFile } from "@/core/onboarding/clientFile";
import { setClientLogo } from "@/features/clients";
import { keepClientLogo, LOGO_BOX, readPicture } from "@/features/images";
import { beginDeletion, deleteClient } from "@/features/offboarding";
import { exportClient, startClient } from "@/features/onboarding";
import { withClient, workFor } from "@/platform/database";
import { type Harness, startHarness, type TestClient } from "../support/harness";
import { Scene, TUESDAY } from "../support/scene";

/** A client's logo, where customers meet it: on the answer page and in mails; and what becomes of it. */

let harness: Harness;

beforeAll(async () => {
  harness = await startHarness("logos");
});
afterAll(() => harness.stop());

const picture = async (colour: string) =>
  readPicture(
    await sharp({ create: { width: 900, height: 300, channels: 4, background: colour } })
      .png()
      .toBuffer(),
    LOGO_BOX,
    "png",
  );

async function agencyOf(client: TestClient): Promise<string> {
  const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
  return rows[0].agency_id;
}

async function keep(client: TestClient, colour: string | null): Promise<string | null> {
  const scope = workFor(client.id);
  const agencyId = await agencyOf(client);
  const drawn = colour === null ? null : await picture(colour);
  return withClient(scope, async (tx) => {
    const logo = await keepClientLogo(tx, { clientId: client.id, agencyId }, drawn, TUESDAY);
    await setClientLogo(tx, scope, "Maud", logo, TUESDAY);
    return logo?.id ?? null;
  });
}

const load = (id: string, headers: Record<string, string> = {}) =>
  GET(new Request(`http://app.example/images/${id}`, { headers }), { params: Promise.resolve({ id }) });

test("customers see it on their page and in their mail; another takes its place, and the one before is gone", async () => {
  const client = await harness.addClient();
  const it = new Scene(harness, client);
  await it.moveTo(TUESDAY);
  const id = await keep(client, "#2F5D50");
  const { person } = await it.finishVisit({ phone: null });
  const ask = await it.askOf(person.id);
  const page = await (await fetch(`${harness.env.APP_URL}/a/${ask.token}`)).text();
  expect(page).toContain(`src="/images/${id}.png"`);
  expect(page).toMatch(/alt="Test Vets \d+" width="1\d\d" height="\d\d"/);
  expect(page).not.toContain('class="mark"');
  await it.advance(TUESDAY + 86_400_000);
  const mail = [...harness.town.mail.mails.values()].at(-1);
  expect((mail?.raw ?? "").replaceAll("=\r\n", "")).toContain(`/images/${id}.png`);

  const first = await load(`${id}.png`);
  expect([first.status, first.headers.get("content-type"), first.headers.get("x-content-type-options")]).toEqual([
    200,
    "image/png",
    "nosniff",
  ]);
  expect((await first.arrayBuffer()).byteLength).toBeLessThan(30_000);
  const etag = first.headers.get("etag") ?? "";
  expect((await load(`${id}.png`, { "if-none-match": etag })).status).toBe(304);
  const other = await keep(client, "#112233");
  expect(other).not.toBe(id);
  expect([(await load(`${id}.png`)).status, (await load(`${other}.png`)).status]).toEqual([404, 200]);
  for (const odd of ["", "x", "../etc", `${id}.svg`, "0".repeat(36)]) expect((await load(odd)).status).toBe(404);
  await keep(client, null);
  expect((await load(`${other}.png`)).status).toBe(404);
  expect(await (await fetch(`${harness.env.APP_URL}/a/${ask.token}`)).text()).toContain('class="mark"');
});

test("it goes with the client's file, and is gone with the client; another client cannot touch it", async () => {
  const [client, other] = [await harness.addClient(), await harness.addClient()];
  const id = await keep(client, "#445566");
  await withClient(workFor(other.id), (tx) =>
    keepClientLogo(tx, { clientId: client.id, agencyId: "00000000-0000-4000-8000-000000000000" }, null, TUESDAY),
  );
  expect((await load(`${id}.png`)).status).toBe(200);
  const scope = workFor(client.id);
  const text = JSON.stringify(await withClient(scope, (tx) => exportClient(tx, scope)));
  const agency = { agencyId: await agencyOf(client), user: { id: "iris", name: "Iris" } };
  await beginDeletion(agency, scope, agency.user, "Test Vets", TUESDAY);
  expect(await deleteClient(client.id, TUESDAY)).toBe(true);
  expect((await load(`${id}.png`)).status).toBe(404);
  const read = readClientFile(text);
  if (!("file" in read)) throw new Error(JSON.stringify(read.faults));
  const started = await startClient(agency, read.file, null, TUESDAY);
  const { rows } = await harness.owner.query("select logo from clients where slug = $1", [
    typeof started === "string" ? started : started.slug,
  ]);
  expect(rows[0].logo).toMatchObject({ width: expect.any(Number) });
  // One that is no picture is said so, and nothing is made.
  const broken = { ...read.file, textNumber: "+447700900555", logo: "bm90IGEgcGljdHVyZQ==" };
  expect(await startClient(agency, broken, null, TUESDAY)).toBe("logo unreadable");
});
