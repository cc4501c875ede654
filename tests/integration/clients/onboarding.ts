import { clientFile } from "@/core/onboarding/clientFile";
import { draftFor, fileOf } from "@/core/onboarding/draft";
import { begin, beginToken, isUnbegun } from "@/features/accounts";
import { loadSetting } from "@/features/clients";
import {
  beginDraft,
  draftOfLink,
  dropDraft,
  endLink,
  findDraft,
  listDrafts,
  makeLink,
  saveDraftValues,
  saveProposal,
  settleProposal,
  startClient,
} from "@/features/onboarding";
import { listPlans } from "@/features/plans";
import { withAgency, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { doAllDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";

/** From an empty installation to a client whose plan waits for a word. */
describe("onboarding", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("onboarding");
  });
  afterAll(() => harness.stop());

  const first = {
    token: "",
    agency: "Harbour Agency",
    name: "Iris Vane",
    email: "iris@harbour.example",
    password: "a long password",
  };
  const user = { id: "iris", name: "Iris" };

  const fileFor = (name: string, textNumber: string) =>
    clientFile.parse(
      fileOf({
        ...draftFor("locksmiths", null),
        name,
        textNumber,
        senderEmail: "a@b.example",
        postalAddress: "1 Row",
        team: "Ada, Jun",
      }),
    );

  test("the first account is made once, however many begin at the same time", async () => {
    expect(await isUnbegun()).toBe(true);
    expect(beginToken()).toHaveLength(16);
    const both = await Promise.all([begin(first, NOW), begin({ ...first, email: "eve@harbour.example" }, NOW)]);
    expect(both.filter(Boolean)).toMatchObject([{ slug: "harbour-agency" }]);
    expect(await isUnbegun()).toBe(false);
    expect(await begin({ ...first, email: "late@harbour.example" }, NOW)).toBeNull();
    const { rows } = await harness.owner.query(
      "select count(*)::int as users, (select count(*)::int from seats) as seats, (select count(*)::int from agencies where slug = 'harbour-agency') as agencies from users",
    );
    expect(rows).toEqual([{ users: 1, seats: 1, agencies: 1 }]);
  });

  async function agency(): Promise<{ agencyId: string; user: typeof user }> {
    const agencyId = newId();
    await harness.owner.query("insert into agencies (id, name) values ($1, 'One')", [agencyId]);
    return { agencyId, user };
  }

  test("a client is made whole, its plan has never run, and nothing is sent", async () => {
    const scope = await agency();
    const draftId = await withAgency(scope, (tx) => beginDraft(tx, scope, "Iris", NOW));
    const started = await startClient(scope, fileFor("Osprey Locksmiths", "07700 900201"), draftId, NOW);
    expect(started).toMatchObject({ slug: "osprey-locksmiths" });
    expect(await withAgency(scope, (tx) => findDraft(tx, scope, draftId))).toBeNull();
    const { rows } = await harness.owner.query("select id from clients where slug = 'osprey-locksmiths'");
    const [setting, plans] = await withClient({ clientId: rows[0].id }, async (tx) => [
      await loadSetting(tx),
      await listPlans(tx, { clientId: rows[0].id }),
    ]);
    expect(setting.client).toMatchObject({ agencyId: scope.agencyId, textNumber: "+447700900201", country: "GB" });
    expect(setting.services.filter(({ neverAsk }) => neverAsk).map(({ name }) => name)).toEqual(["After a burglary"]);
    expect(setting.team.map(({ name }) => name)).toEqual(["Ada", "Jun"]);
    expect(setting.branches.map(({ name, address }) => [name, address])).toEqual([["Osprey Locksmiths", "1 Row"]]);
    expect(plans.map(({ state, version }) => [state, version])).toEqual([["draft", 0]]);
    const before = harness.town.mail.mails.size + harness.town.texts.texts.size;
    await doAllDue();
    expect(harness.town.mail.mails.size + harness.town.texts.texts.size).toBe(before);
  });

  test("two clients of one name get addresses of their own; a text number is one agency's alone, and nothing is left of a refusal", async () => {
    const scope = await agency();
    const names = await Promise.all(
      ["202", "203"].map((end) => startClient(scope, fileFor("Saltmarsh Cycles", `07700 900${end}`), null, NOW)),
    );
    expect(names.map((one) => (typeof one !== "string" && "slug" in one ? one.slug : one)).sort()).toEqual([
      "saltmarsh-cycles",
      "saltmarsh-cycles-2",
    ]);
    const count = async () => (await harness.owner.query("select count(*)::int as n from clients")).rows[0].n;
    // Clients of one agency may share a number.
    const shared = await startClient(scope, fileFor("Saltmarsh Skates", "07700 900203"), null, NOW);
    expect(shared).toMatchObject({ slug: "saltmarsh-skates" });
    const { rows } = await harness.owner.query(
      "insert into agencies (id, name) values (gen_random_uuid(), 'Another agency') returning id",
    );
    const other = { ...scope, agencyId: rows[0].id };
    const before = await count();
    expect(await startClient(other, fileFor("Juniper Row", "07700 900202"), null, NOW)).toBe("text number taken");
    expect(await count()).toBe(before);
  });

  test("drafts are an agency's own, and are kept as they were typed", async () => {
    const [ours, theirs] = [await agency(), await agency()];
    const id = await withAgency(ours, (tx) => beginDraft(tx, ours, "Iris", NOW));
    const typed = { ...draftFor("boats", null), name: "Half a na", country: "F" };
    expect(await withAgency(ours, (tx) => saveDraftValues(tx, ours, "Iris", id, typed, NOW + 1))).toBe(true);
    expect((await withAgency(ours, (tx) => findDraft(tx, ours, id)))?.values).toEqual(typed);
    expect(await withAgency(theirs, (tx) => findDraft(tx, theirs, id))).toBeNull();
    expect(await withAgency(theirs, (tx) => saveDraftValues(tx, theirs, "Eve", id, typed, NOW))).toBe(false);
    expect(await withAgency(theirs, (tx) => listDrafts(tx, theirs))).toEqual([]);
  });

  describe("the link by which a client fills a draft in", () => {
    async function draft() {
      const scope = await agency();
      const id = await withAgency(scope, (tx) => beginDraft(tx, scope, "Iris", NOW));
      const link = () => withAgency(scope, async (tx) => (await makeLink(tx, scope, "Iris", id, NOW)) ?? "");
      return { scope, id, link };
    }

    test("keeps what they write beside the draft, until somebody of the agency takes it over", async () => {
      const { scope, id, link } = await draft();
      const filled = await draftOfLink(await link(), NOW + 1);
      if (!filled) throw new Error("no draft");
      expect(filled).toMatchObject({ id, agency: { name: "One" }, isDone: false });
      const theirs = { ...filled.values, name: "Osprey Locks", colour: "#ffffff", team: "Ada" };
      await saveProposal(filled, theirs, true, NOW + 2);
      const before = await withAgency(scope, (tx) => findDraft(tx, scope, id));
      expect(before).toMatchObject({ values: { name: "" }, proposed: { name: "Osprey Locks" }, doneAt: NOW + 2 });
      const after = await withAgency(scope, (tx) => settleProposal(tx, scope, "Iris", id, true, NOW + 3));
      expect(after).toMatchObject({ values: { name: "Osprey Locks", team: "Ada", colour: "#6A2156" }, proposed: null });
      expect(await withAgency(scope, (tx) => settleProposal(tx, scope, "Iris", id, true, NOW + 4))).toBeNull();
    });

    test("leads nowhere when it is guessed, made anew, ended, late, or the draft is gone; and never elsewhere", async () => {
      const { scope, id, link } = await draft();
      const first = await link();
      const second = await link();
      expect(await draftOfLink(first, NOW)).toBeNull();
      expect(await draftOfLink("x".repeat(24), NOW)).toBeNull();
      expect(await draftOfLink(second, NOW + 15 * 86_400_000)).toBeNull();
      expect(await draftOfLink(second, NOW)).not.toBeNull();
      const { rows } = await harness.owner.query("select link_hash from client_drafts where id = $1", [id]);
      expect(rows[0].link_hash).not.toContain(second);
      const other = await agency();
      expect(await withAgency(other, (tx) => endLink(tx, other, id))).toBe(false);
      expect(await withAgency(other, (tx) => makeLink(tx, other, "Eve", id, NOW))).toBeNull();
      expect(await withAgency(other, (tx) => settleProposal(tx, other, "Eve", id, true, NOW))).toBeNull();
      expect(await withAgency(scope, (tx) => endLink(tx, scope, id))).toBe(true);
      expect(await draftOfLink(second, NOW)).toBeNull();
      const third = await link();
      await withAgency(scope, (tx) => dropDraft(tx, scope, id));
      expect(await draftOfLink(third, NOW)).toBeNull();
    });
  });
});
