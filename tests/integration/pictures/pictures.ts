import sharp from "sharp";
import { BACKGROUNDS, isDrawable, PICTURE, type PictureDesign, PLAIN_PICTURE } from "@/core/words/namedPicture";
import type { WalkChoice } from "@/core/words/walk";
import { drawPicture, keepPhoto, MOST_PICTURE_BYTES, readPicture } from "@/features/images";
import { erasePeople } from "@/features/people-admin";
import { sentInMonth } from "@/features/plan-editor/sentInMonth";
import { findPlan } from "@/features/plans";
import { loadWalk, makeSampleLink, sendSample, walkMail } from "@/features/words";
import { pictureAddress, pictureOf } from "@/platform/customerLinks";
import { withClient } from "@/platform/database";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/** Pictures: the one with a name that a message carries, and the one that a customer sends with an answer. */
describe("pictures", () => {
  const HOUR = 3_600_000;
  let harness: Harness;
  let client: TestClient;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("pictures");
  });
  afterAll(() => harness.stop());
  beforeEach(async () => {
    client = await harness.addClient();
    scene = new Scene(harness, client);
    await scene.moveTo(TUESDAY);
  });

  const onFirst = (change: Partial<PictureDesign> = {}) =>
    scene.setRules("picture", { ...PLAIN_PICTURE, ...change, emails: ["first"], texts: ["first"] });

  async function asked(change: Parameters<Scene["finishVisit"]>[0] = {}) {
    const { person } = await scene.finishVisit(change);
    await scene.advance(TUESDAY + 24 * HOUR);
    const { token, id } = await scene.askOf(person.id);
    const [message] = await scene.messagesOf(person.id);
    return { person, token, id, message };
  }

  async function pixelsOf(jpeg: Buffer) {
    const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  }

  /** Where two pictures of one size differ, as a picture. */
  async function difference(a: Buffer, b: Buffer): Promise<Buffer> {
    const blended = await sharp(a)
      .composite([{ input: b, blend: "difference" }])
      .png()
      .toBuffer();
    return sharp(blended).removeAlpha().png().toBuffer();
  }

  /** The brightest point of a picture, 0 to 255. */
  const brightest = async (picture: Buffer) =>
    Math.max(...(await sharp(picture).stats()).channels.map(({ max }) => max));

  describe("a picture with a name", () => {
    test("stands in the mail with what it says, and is served to whoever has the mail, and to nobody else", async () => {
      await onFirst();
      const { token, message, person } = await asked({ phone: null, given: "Łucja" });
      expect(message.picture).toBe("Thank you, Łucja");
      const [mail] = harness.town.mail.mailbox(person.email ?? "");
      const { simpleParser } = await import("mailparser");
      const { html, text } = await simpleParser(Buffer.from(mail.raw));
      const address = pictureAddress(token, 0);
      expect(html).toContain(`src="${address}"`);
      expect(html).toContain('alt="Thank you, Łucja"');
      expect(text).toContain("Thank you, Łucja");
      const response = await fetch(address);
      expect([response.status, response.headers.get("content-type")]).toEqual([200, "image/jpeg"]);
      const jpeg = Buffer.from(await response.arrayBuffer());
      expect(jpeg.length).toBeLessThan(MOST_PICTURE_BYTES);
      expect(jpeg.equals(await drawPicture("Thank you, Łucja", PLAIN_PICTURE, "hanken"))).toBe(true);
      const etag = response.headers.get("etag") ?? "";
      expect((await fetch(address, { headers: { "if-none-match": etag } })).status).toBe(304);
      // Another message, another tag, nonsense: nothing is drawn.
      const odd = [
        address.replace(`${token}.0`, `${token}.1`),
        address.replace(/\.[^.]{16}\.jpg$/, ".aaaaaaaaaaaaaaaa.jpg"),
        pictureAddress(token, 1),
        pictureOf("way.bm90aGluZw"),
        pictureOf("nobody23456789.0"),
        `${harness.env.APP_URL}/p/${token}.0.jpg`,
        `${harness.env.APP_URL}/p/%00`,
        `${harness.env.APP_URL}/p/`,
      ];
      for (const one of odd) expect([one, (await fetch(one)).status]).toEqual([one, 404]);
    });

    test("in a text it is a message with a picture: its own price counts, and a phone may leave it out", async () => {
      await harness.owner.query("update clients set texts_a_month = 100, media_price = 130 where id = $1", [client.id]);
      await onFirst();
      const { person, token } = await asked();
      const [text] = harness.town.texts.phone(person.phone ?? "");
      expect(text.media).toBe(pictureAddress(token, 0));
      const used = () =>
        harness.owner.query("select used from senders where client_id = $1 and channel = 'text'", [client.id]);
      // Four parts of 40 thousandths are worth a picture of 130.
      expect((await used()).rows).toEqual([{ used: 4 }]);
      harness.town.texts.faults.add({ kind: "no pictures" });
      const plain = await asked();
      harness.town.texts.faults.clear();
      const [alone] = harness.town.texts.phone(plain.person.phone ?? "");
      expect(alone.media).toBeNull();
      const [kept] = await scene.messagesOf(plain.person.id);
      expect([kept.state, kept.gatewaySaid]).toEqual(["delivered", expect.stringContaining("without the picture")]);
      // What the plan says it costs a month goes by what left of that message.
      const plan = await withClient(scene.scope, (tx) => findPlan(tx, scene.scope, client.planId));
      if (!plan) throw new Error("no plan");
      const sent = await withClient(scene.scope, (tx) =>
        sentInMonth(tx, scene.scope, client.planId, plan.rules, TUESDAY + 24 * HOUR),
      );
      expect(sent).toEqual({ first: { texts: 2, parts: expect.any(Number), emails: 0 } });
    });

    test.each([
      ["Юлия", "Thank you"],
      ["مريم", "Thank you"],
      ["", "Thank you"],
    ])("for %p it says %p", async (given, says) => {
      await onFirst();
      const { message, token } = await asked({ phone: null, given });
      expect(message.picture).toBe(says);
      expect((await fetch(pictureAddress(token, 0))).status).toBe(200);
    });

    test("somebody who is erased stands in no picture any more", async () => {
      await onFirst();
      const { token, person } = await asked({ phone: null });
      await withClient(scene.scope, (tx) => erasePeople(tx, scene.scope, [person.id], "Maud", TUESDAY));
      expect((await fetch(pictureAddress(token, 0))).status).toBe(404);
    });

    test("a message that carries none has none, and its variant is kept with it and its events", async () => {
      const { message, token, id } = await asked({ phone: null, language: "pl" });
      expect([message.picture, message.variant]).toEqual([null, "pl"]);
      expect((await fetch(pictureAddress(token, 0))).status).toBe(404);
      const { rows } = await harness.owner.query(
        "select distinct variant from ask_events where ask_id = $1 and kind = 'sent'",
        [id],
      );
      expect(rows).toEqual([{ variant: "pl" }]);
    });

    test("the way shows it before anything is sent, and a sample carries it", async () => {
      await onFirst({ background: "waves" });
      const choice: WalkChoice = { stop: "message-0", language: "pl", service: null, by: null, who: "made up" };
      const walk = await withClient(scene.scope, async (tx) => {
        const found = await loadWalk(tx, scene.scope, client.planId, choice, TUESDAY);
        if (!found) throw new Error("no walk");
        return found;
      });
      const { html } = await walkMail(walk, 0);
      const address = /src="([^"]*\/p\/way\.[^"]*)"/.exec(html)?.[1] ?? "";
      const jpeg = Buffer.from(await (await fetch(address)).arrayBuffer());
      const drawn = await drawPicture("Odette, dziękujemy", { ...PLAIN_PICTURE, background: "waves" }, "hanken");
      expect(jpeg.equals(drawn)).toBe(true);
      await scene.moveTo(TUESDAY + 72 * HOUR);
      expect((await fetch(address)).status).toBe(404);
      await scene.moveTo(TUESDAY);
      const to = { kind: "text" as const, address: "+447700900444" };
      const link = await withClient(scene.scope, (tx) => makeSampleLink(tx, scene.scope, "Maud", walk));
      await sendSample(walk, 0, link, to);
      const [sample] = harness.town.texts.phone("+447700900444");
      expect(sample.media).toMatch(/\/p\/1[0-9A-Za-z]+\.0\./);
      expect((await fetch(sample.media ?? "")).status).toBe(200);
    });

    test("stands on a photo of the business's own; a photo that is gone leaves the background", async () => {
      const noise = await sharp({
        create: {
          width: 1600,
          height: 1200,
          channels: 3,
          background: "#888",
          noise: { type: "gaussian", mean: 128, sigma: 60 },
        },
      })
        .jpeg()
        .toBuffer();
      const photo = await readPicture("tests", noise, { width: 1280, height: 1280 }, "jpeg");
      const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
      const kept = await withClient(scene.scope, (tx) =>
        keepPhoto(tx, { clientId: client.id, agencyId: rows[0].agency_id, branchId: null }, photo, TUESDAY),
      );
      const design = { ...PLAIN_PICTURE, photo: kept?.id ?? null };
      // The worst that can be photographed: every point another colour.
      const jpeg = await drawPicture("Thank you, Odette!", design, "hanken");
      expect(jpeg.length).toBeLessThan(MOST_PICTURE_BYTES);
      expect(await pixelsOf(jpeg)).toMatchObject({ width: PICTURE.width, height: PICTURE.height });
      const gone = await drawPicture(
        "Thank you!",
        { ...design, photo: "00000000-0000-4000-8000-000000000000" },
        "hanken",
      );
      expect(gone.equals(await drawPicture("Thank you!", PLAIN_PICTURE, "hanken"))).toBe(true);
    });

    test("on every background, in every typeface, the words are there, whole and inside", async () => {
      const said = ["Thank you, Odette!", "Dziękujemy, Wilhelmina-Bartholomea Łącka-Żółkiewska!"];
      for (const background of BACKGROUNDS)
        for (const typeface of ["hanken", "bricolage", "newsreader", "system"] as const)
          for (const words of said) {
            expect(isDrawable(words)).toBe(true);
            const design = { ...PLAIN_PICTURE, background, angle: -20, size: 20, x: 2, y: 96 };
            const [bare, drawn] = [await drawPicture("", design, typeface), await drawPicture(words, design, typeface)];
            const changed = await difference(bare, drawn);
            expect(await brightest(changed)).toBeGreaterThan(100);
            // Nothing of them touches an edge: there both pictures are one, but for what JPEG blurs.
            const edges = ["top", "bottom"].map((edge) =>
              sharp(changed)
                .extract({ left: 0, top: edge === "top" ? 0 : PICTURE.height - 2, width: PICTURE.width, height: 2 })
                .png()
                .toBuffer(),
            );
            for (const edge of await Promise.all(edges)) expect(await brightest(edge)).toBeLessThan(40);
          }
    });
  });

  describe("a photo with an answer", () => {
    const file = async (colour = "#336699") =>
      sharp({ create: { width: 2400, height: 1800, channels: 3, background: colour } })
        .jpeg()
        .withExif({ IFD0: { Copyright: "somebody" } })
        .toBuffer();
    const send = (base: string, content: Buffer | null, fields: Record<string, string> = {}) => {
      const form = new FormData();
      for (const [name, value] of Object.entries(fields)) form.append(name, value);
      if (content) form.append("photo", new File([new Uint8Array(content)], "garden.jpg"));
      return fetch(`${base}/photo`, { method: "POST", body: form, redirect: "manual" });
    };
    const kept = async () =>
      (await harness.owner.query("select width, height, content from answer_photos where client_id = $1", [client.id]))
        .rows;
    const ASKS = { aspects: [], recommend: "not", questions: [], mayShow: false, doorsLookAt: "rating", photo: true };

    test("is kept once, drawn anew, and taken back; what is no picture is told, and nothing is lost", async () => {
      await scene.setRules("more", ASKS);
      const { token } = await asked();
      const base = `${harness.env.APP_URL}/a/${token}`;
      // Before they answer there is nothing to keep it with.
      expect((await send(base, await file())).status).toBe(303);
      expect(await kept()).toHaveLength(0);
      await post(`${base}/rate`, { rating: "5" });
      expect(await (await fetch(base)).text()).toContain('type="file"');
      expect((await send(base, await file(), { lang: "pl" })).headers.get("location")).toBe(`/a/${token}?lang=pl#more`);
      await send(base, await file("#993333"));
      const [photo, ...others] = await kept();
      expect([others.length, photo.width, photo.height]).toEqual([0, 1280, 960]);
      const { exif } = await sharp(photo.content).metadata();
      expect(exif).toBeUndefined();
      expect(await (await fetch(base)).text()).not.toContain('type="file"');
      for (const odd of [Buffer.from("not a picture"), Buffer.alloc(0), null]) {
        const refused = await send(base, odd);
        expect([refused.status, (await refused.text()).includes("couldn’t read that picture")]).toEqual([422, true]);
      }
      expect(await kept()).toHaveLength(1);
      expect((await send(base, null, { remove: "1" })).status).toBe(303);
      expect(await kept()).toHaveLength(0);
    });

    test("is not taken where nobody asks for one", async () => {
      const { token } = await asked();
      const base = `${harness.env.APP_URL}/a/${token}`;
      await post(`${base}/rate`, { rating: "2" });
      expect((await send(base, await file())).status).toBe(303);
      expect(await kept()).toHaveLength(0);
      expect(await (await fetch(base)).text()).not.toContain('type="file"');
    });

    test("awkward files give a picture or a refusal, never a fault", async () => {
      await scene.setRules("more", ASKS);
      const { token } = await asked();
      const base = `${harness.env.APP_URL}/a/${token}`;
      await post(`${base}/rate`, { rating: "4" });
      const jpeg = await file();
      const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
      const outcomes: [Buffer, number][] = [
        [jpeg.subarray(0, jpeg.length / 3), 422],
        [await sharp(jpeg).gif().toBuffer(), 422],
        // Drawings are for logos: from a customer, none is drawn.
        [Buffer.from(svg), 422],
        [Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="90000" height="90000"/>'), 422],
        [await sharp(jpeg).webp().toBuffer(), 303],
      ];
      for (const [content, status] of outcomes) expect((await send(base, content)).status).toBe(status);
      // Sent without the shape of an upload, and larger than is taken.
      expect((await fetch(`${base}/photo`, { method: "POST", body: "photo=1", redirect: "manual" })).status).toBe(422);
      expect((await send(base, Buffer.alloc(9 * 1024 * 1024))).status).toBe(422);
    });
  });
});
