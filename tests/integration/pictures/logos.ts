import sharp from "sharp";
import { GET } from "@/app/images/[id]/route";
import { readClientFile } from "@/core/onboarding/clientFile";
import { PLAIN_LOOK } from "@/core/words/look";
import { setClientPicture } from "@/features/clients";
import { saveBranchLook } from "@/features/clients/customerSide";
import { BOXES, keepClientPicture, readPicture } from "@/features/images";
import { beginDeletion, deleteClient } from "@/features/offboarding";
import { exportClient, startClient } from "@/features/onboarding";
import { withClient, workFor } from "@/platform/database";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** A client's logo, where customers meet it: on the answer page and in mails; and what becomes of it. */
describe("logos", () => {
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("logos");
  });
  afterAll(() => harness.stop());

  type Kind = "logo" | "header" | "portrait";

  const picture = async (colour: string, kind: Kind = "logo") =>
    readPicture(
      "tests",
      await sharp({ create: { width: 900, height: 300, channels: 4, background: colour } })
        .png()
        .toBuffer(),
      BOXES[kind].box,
      BOXES[kind].as,
    );

  async function agencyOf(client: TestClient): Promise<string> {
    const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
    return rows[0].agency_id;
  }

  async function keep(
    client: TestClient,
    colour: string | null,
    kind: Kind = "logo",
    branchId: string | null = null,
  ): Promise<string | null> {
    const scope = workFor(client.id);
    const agencyId = await agencyOf(client);
    const drawn = colour === null ? null : await picture(colour, kind);
    return withClient(scope, async (tx) => {
      const kept = await keepClientPicture(tx, { clientId: client.id, agencyId, branchId }, kind, drawn, TUESDAY);
      await setClientPicture(tx, scope, "Maud", { kind, branchId, picture: kept }, TUESDAY);
      return kept?.id ?? null;
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
      keepClientPicture(
        tx,
        { clientId: client.id, agencyId: "00000000-0000-4000-8000-000000000000", branchId: null },
        "logo",
        null,
        TUESDAY,
      ),
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
      typeof started !== "string" && "slug" in started ? started.slug : started,
    ]);
    expect(rows[0].logo).toMatchObject({ width: expect.any(Number) });
    // One that is no picture is said so, and nothing is made.
    const broken = { ...read.file, textNumber: "+447700900555", logo: "bm90IGEgcGljdHVyZQ==" };
    expect(await startClient(agency, broken, null, TUESDAY)).toEqual({ unreadable: "logo" });
  });

  test("a branch shows pictures, colour and signature of its own, in mails and on pages; the others show the business's", async () => {
    const client = await harness.addClient();
    const it = new Scene(harness, client);
    await it.moveTo(TUESDAY);
    const header = await keep(client, "#88AACC", "header");
    const portrait = await keep(client, "#AA8866", "portrait");
    const own = await keep(client, "#335577", "header", client.branchId);
    const scope = workFor(client.id);
    const look = {
      ...PLAIN_LOOK,
      typeface: "newsreader" as const,
      senderName: "Fenwick reception",
      signature: "Since 1931",
    };
    await withClient(scope, (tx) =>
      saveBranchLook(tx, scope, "Maud", client.branchId, { ...look, colour: "#113355" }, TUESDAY),
    );
    const { person } = await it.finishVisit({ phone: null });
    const ask = await it.askOf(person.id);
    const page = await (await fetch(`${harness.env.APP_URL}/a/${ask.token}`)).text();
    for (const part of [`/images/${own}.jpg`, `/images/${portrait}.jpg`, "--own:#113355", "newsreader"])
      expect(page).toContain(part);
    expect(page).not.toContain(`/images/${header}.jpg`);
    await it.advance(TUESDAY + 86_400_000);
    const mail = [...harness.town.mail.mails.values()].at(-1);
    const raw = (mail?.raw ?? "").replaceAll("=\r\n", "");
    for (const part of [`/images/${own}.jpg`, `/images/${portrait}.jpg`, "Since 1931", "Fenwick reception"])
      expect(raw).toContain(part);
    // Taken back, the branch looks as the business does again.
    await withClient(scope, (tx) => saveBranchLook(tx, scope, "Maud", client.branchId, null, TUESDAY));
    await keep(client, null, "header", client.branchId);
    const { rows } = await harness.owner.query("select look from branches where id = $1", [client.branchId]);
    expect(rows[0].look).toBeNull();
    expect(await (await fetch(`${harness.env.APP_URL}/a/${ask.token}`)).text()).toContain(`/images/${header}.jpg`);
    expect((await load(`${own}.jpg`)).status).toBe(404);
  });
});
