import { eq, sql } from "drizzle-orm";
import {
  AnswerPage,
  type AnswerView,
  handleAnswerRequest,
  handleOptOutRequest,
  lookAtAnswer,
  noteOf,
  pageOf,
  viewOf,
} from "@/features/answers";
import { askByToken, loadContexts, reviewedSites } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { CLIENT_HEADER } from "@/platform/clientAddress";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { forgetCounts } from "@/platform/publicLink";
import { answerPhotos } from "@/schema/answerPhotos";
import { answers, sitesFollowed } from "@/schema/answers";
import { newId } from "@/schema/columns";
import { visits } from "@/schema/visits";
import { markupOf } from "@/ui/markup";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Following a customer's link is one statement: what it reads, whom it lets in, and how often. */
describe("follow link", () => {
  let harness: Harness;
  let scene: Scene;
  let other: Scene;

  beforeAll(async () => {
    harness = await startHarness("follow_link");
    scene = new Scene(harness, await harness.addClient({ privacyNote: null }));
    other = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());
  beforeEach(async () => {
    await harness.owner.query("delete from rate_limits");
    await forgetCounts("203.0.113.5");
  });

  const run = (text: string, values: unknown[] = []) => harness.owner.query(text, values);
  const post = (token: string, kind: string, fields: Record<string, string>, last: string[] = []) =>
    handleAnswerRequest(new Request("http://x/", { method: "POST", body: new URLSearchParams(fields) }), [
      token,
      kind,
      ...last,
    ]);

  /** The view as each feature reads its own part of it. */
  async function viewByFeatures(token: string): Promise<AnswerView> {
    const link = await askByToken(token);
    if (!link) throw new Error("No such link.");
    const scope = workFor(link.clientId);
    return withClient(scope, async (tx) => {
      const [context] = await loadContexts(tx, scope, [link.askId]);
      const [answer] = await tx.select().from(answers).where(eq(answers.askId, link.askId));
      const followed = await tx.select().from(sitesFollowed).where(eq(sitesFollowed.askId, link.askId));
      const { personId } = context.ask;
      return viewOf({
        token,
        setting: await loadSetting(tx),
        context,
        answer: answer ?? null,
        hasPhoto: (await tx.$count(answerPhotos)) > 0 && Boolean(answer) && (await hasPhoto(answer.id)),
        followed: followed.map(({ listingId }) => listingId),
        reviewed: (await reviewedSites(tx, scope, [personId])).get(personId) ?? [],
        now: TUESDAY,
      });
    });
  }
  const hasPhoto = async (answerId: string) =>
    (await run("select 1 from answer_photos where answer_id = $1", [answerId])).rowCount === 1;

  const pageFor = (view: AnswerView) =>
    markupOf(
      <AnswerPage view={pageOf(view)} preselect={null} wrong={null} typed={{}} changing={false} isSent={undefined} />,
    );

  const BRANCH = newId();
  type Case = {
    given: string;
    family?: string;
    birthDate?: string;
    language?: string;
    guardian?: boolean;
    along?: boolean;
    about?: string;
    isElsewhere?: boolean;
    withTeam?: boolean;
    version?: number;
    rating?: string;
    words?: string;
    goesToSite?: boolean;
    reviewed?: boolean;
    photo?: boolean;
  };
  const CASES: Case[] = [
    { given: "Odette" },
    { given: "", family: "" },
    { given: "Żaneta", language: "pl", about: "" },
    { given: "Arlo", birthDate: "2018-05-01", guardian: true },
    { given: "Ida", birthDate: "2018-05-01" },
    { given: "Wanda", guardian: true },
    { given: "Jun", along: true, about: "" },
    { given: "Maud", isElsewhere: true, withTeam: true },
    { given: "Pia", version: 2 },
    { given: "Rosa", version: 2, rating: "5" },
    { given: "Ben", rating: "1" },
    { given: "Cara", rating: "1", words: "Nobody called <b>back</b> & I waited." },
    { given: "Dora", rating: "5", goesToSite: true },
    { given: "Elias", rating: "5", reviewed: true, isElsewhere: true },
    { given: "Finn", rating: "4", words: "Thank you.", photo: true, withTeam: true },
    { given: "Gwen", rating: "3", language: "de" },
  ];

  /** Somebody with an ask, as a case says it. */
  async function asked(it: Case): Promise<string> {
    const { client } = scene;
    const person = await scene.addPerson({
      given: it.given,
      ...(it.family === undefined ? {} : { family: it.family }),
    });
    await run("update people set language = $2 where id = $1", [person.id, it.language ?? null]);
    if (it.guardian) {
      const guardian = await scene.addPerson({ given: "Hanna" });
      await run("update people set guardian_id = $2 where id = $1", [person.id, guardian.id]);
    }
    const visit = await scene.visit(person.id, { about: it.about ?? "Biscuit" });
    const ask = await scene.askOf(person.id);
    // Also who would not be asked: it may become known later.
    await run("update people set birth_date = $2 where id = $1", [person.id, it.birthDate ?? null]);
    if (it.along) {
      const second = await scene.visit((await scene.addPerson({ given: "Lena" })).id, { about: "" });
      await withClient(scene.scope, (tx) => tx.update(visits).set({ askId: ask.id }).where(eq(visits.id, second.id)));
    }
    if (it.withTeam)
      await run("update visits set team_member_id = (select id from team_members where client_id = $2) where id = $1", [
        visit.id,
        client.id,
      ]);
    if (it.isElsewhere) {
      await run("update visits set branch_id = $2 where id = $1", [visit.id, BRANCH]);
      await run("update asks set branch_id = $2 where id = $1", [ask.id, BRANCH]);
    }
    if (it.version) await run("update asks set plan_version = $2 where id = $1", [ask.id, it.version]);
    if (it.rating) await post(ask.token, "rate", { rating: it.rating });
    if (it.words) await post(ask.token, "words", { words: it.words });
    const { rows } = await run("select id from listings where client_id = $1 and branch_id = $2", [
      client.id,
      it.isElsewhere ? BRANCH : client.branchId,
    ]);
    if (it.goesToSite) await post(ask.token, "site", {}, [rows[0].id]);
    if (it.reviewed)
      await run(
        `insert into reviews (id, client_id, listing_id, branch_id, external_id, author, scale, rating, own_rating, words,
         written_at, collected_at, seen_at, person_id)
       values ($1, $2, $3, $4, 'r1', 'Elias', 'five', 5, 5, 'Fine.', now(), now(), now(), $5)`,
        [newId(), client.id, rows[0].id, BRANCH, person.id],
      );
    if (it.photo)
      await run(
        `insert into answer_photos (id, answer_id, client_id, branch_id, type, width, height, content, created_at)
       select $2, id, client_id, branch_id, 'image/jpeg', 1, 1, '\\x00', now() from answers where ask_id = $1`,
        [ask.id, newId()],
      );
    return ask.token;
  }

  test("the page is the one that the features' own reading gives, whoever is asked and whatever they said", async () => {
    const { client } = scene;
    await run(
      `insert into branches (id, client_id, name, zone, address, position, look) values ($1, $2, 'Harbour', 'Europe/London', '2 Lane', 1, '{"colour":"#0B5D5E"}')`,
      [BRANCH, client.id],
    );
    await run(
      `insert into listings select (jsonb_populate_record(l, jsonb_build_object('id', $2::uuid, 'branch_id', $1::uuid, 'connector_url', l.connector_url || '-2'))).* from listings l where client_id = $3`,
      [BRANCH, newId(), client.id],
    );
    await run(
      `insert into plan_versions select plan_id, 2, client_id, jsonb_set(rules, '{question}', '"faces"'), by, at from plan_versions where client_id = $1`,
      [client.id],
    );
    for (const each of CASES) {
      const token = await asked(each);
      const parts = await viewByFeatures(token);
      const shown = await (await lookAtAnswer(new Request(`http://x/a/${token}`), token)).text();
      expect([each, shown]).toEqual([each, await pageFor(parts)]);
      const note = await handleAnswerRequest(new Request(`http://x/a/${token}/privacy`), [token, "privacy"]);
      expect(await note.text()).toContain(noteOf(parts.setting, pageOf(parts).language).split("\n")[0]);
    }
  });

  test("the page of an ask is nobody's outside its client", async () => {
    const { person } = await other.finishVisit();
    const ask = await other.askOf(person.id);
    const page = sql`select estima_answer_page(${ask.id}) as page`;
    expect(await rowsOf(page)).toEqual([{ page: null }]);
    const inside = (at: Scene) => withClient(at.scope, async (tx) => (await tx.execute(page)).rows[0].page);
    expect(await inside(scene)).toBeNull();
    expect(await inside(other)).not.toBeNull();
  });

  describe("limits", () => {
    let token = "";
    beforeAll(async () => {
      const { person } = await other.finishVisit();
      token = (await other.askOf(person.id)).token;
    });
    const from = (address: string) => ({ headers: { [CLIENT_HEADER]: address } });
    const look = async (at: string, address = "203.0.113.5") =>
      (await lookAtAnswer(new Request(`http://x/a/${at}`, from(address)), at)).status;
    const points = async () =>
      Object.fromEntries(
        (await run("select key, points from rate_limits")).rows.map(({ key, points }) => [key, points]),
      );

    test("sixty looks at one link in a minute, whoever looks, and its opt-out counts apart", async () => {
      for (let n = 0; n < 60; n++) expect(await look(token, `203.0.113.${n}`)).toBe(200);
      expect(await look(token, "203.0.113.99")).toBe(429);
      const optOut = await handleOptOutRequest(new Request(`http://x/u/${token}`, from("203.0.113.99")), token);
      expect(optOut.status).toBe(200);
      // What was counted long enough ago counts no more.
      await run("update rate_limits set expire = 1");
      expect(await look(token, "203.0.113.99")).toBe(200);
      expect((await points())[`60/60:a ${token}`]).toBe(1);
    });

    test("guesses are counted for whoever makes them and leave no trace of each", async () => {
      const guesses = Array.from({ length: 62 }, (_, n) => `guess${"x".repeat(10)}${n}`);
      const statuses: number[] = [];
      for (const guess of guesses) statuses.push(await look(guess));
      expect(statuses.filter((status) => status === 404)).toHaveLength(60);
      expect(statuses.slice(60)).toEqual([429, 429]);
      expect(await points()).toEqual({ "1200/60:client 203.0.113.5": 60, "60/60:guess 203.0.113.5": 62 });
      // A link that leads somewhere is still followed.
      expect(await look(token)).toBe(200);
    });

    test("what cannot be a link is a guess like any other", async () => {
      for (const at of ["", "x", "../../etc", "'; drop table asks; --", "é".repeat(20), "y".repeat(500)])
        expect([at, await look(at)]).toEqual([at, 404]);
      expect((await points())["60/60:guess 203.0.113.5"]).toBe(6);
    });

    test("one address is let in twelve hundred times a minute, counted with what it asks of others", async () => {
      const { isWelcomeClient } = await import("@/platform/publicLink");
      const counted = async () => (await points())["1200/60:client 203.0.113.5"];
      for (let n = 0; n < 19; n++) expect(await look(token)).toBe(200);
      expect(await counted()).toBeUndefined();
      expect(await look(token)).toBe(200);
      expect(await counted()).toBe(20);
      expect(await isWelcomeClient(new Headers({ [CLIENT_HEADER]: "203.0.113.5" }))).toBe(true);
      expect(await counted()).toBe(21);
      // Another process has let them in nearly as often as that.
      await run("update rate_limits set points = 1190 where key like '%client 203.0.113.5'");
      for (let n = 0; n < 19; n++) expect(await look(token)).toBe(200);
      expect(await look(token)).toBe(429);
      expect(await look(token, "203.0.113.6")).toBe(200);
    });

    test("whoever goes on costs the database nothing any more", async () => {
      for (let n = 0; n < 1200; n++) await look("nobodyhasthislink");
      const before = await points();
      expect(before["60/60:guess 203.0.113.5"]).toBe(1200);
      for (let n = 0; n < 50; n++) expect(await look(token)).toBe(429);
      expect(await points()).toEqual(before);
    });
  });
});
