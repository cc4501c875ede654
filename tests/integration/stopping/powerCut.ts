import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { HOUR } from "@/core/time/zone";
import { sendDue } from "@/worker/due";
import { freePort, type Local } from "../../../scripts/local";
import { startPostgres } from "../../../scripts/postgres";
import { type Harness, startHarness } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";
import { standstill } from "../../support/standstill";

/**
 * PostgreSQL itself is killed in the middle of sending and answering, again and again, and started anew: whatever a
 * customer was told is kept is there, and nothing is sent twice. On a server of its own that runs as the demo's does.
 */
describe("power cut", () => {
  const ASKS = 120;
  let harness: Harness;
  let scene: Scene;
  let local: Local;
  let folder = "";
  const { TEST_DATABASE_URL = "", TEST_APP_PASSWORD = "" } = process.env;
  const before = { TEST_DATABASE_URL, TEST_APP_PASSWORD };

  beforeAll(async () => {
    const home = mkdtempSync(join(tmpdir(), "estima-power-"));
    const secret = "power-cut-secret";
    local = {
      home,
      port: 0,
      secrets: {
        postgres: secret,
        app: secret,
        estima: secret,
        mailHook: secret,
        textHook: secret,
        textKey: secret,
        waypost: secret,
        postgresPort: await freePort(),
      },
    };
    const server = await startPostgres(local);
    folder = server.folder ?? "";
    process.env.TEST_DATABASE_URL = server.ownerUrl;
    process.env.TEST_APP_PASSWORD = secret;
    harness = await startHarness("power");
    // What the test asks the server itself must bear its end too.
    harness.owner.on("error", () => {});
    harness.owner.on("connect", (client) => client.on("error", () => {}));
    scene = new Scene(harness, await harness.addClient());
  });
  afterAll(async () => {
    await harness.stop().catch(() => {});
    stopServer("fast");
    Object.assign(process.env, before);
    rmSync(local.home, { recursive: true, force: true });
  });

  const postmaster = () => Number(readFileSync(join(folder, "postmaster.pid"), "utf8").split("\n")[0]);

  function stopServer(how: "fast"): void {
    try {
      process.kill(postmaster(), how === "fast" ? "SIGINT" : "SIGKILL");
    } catch {
      // gone already
    }
  }

  /**
   * As a power cut does: the server and all that works for it end at once, with nothing written that was not written
   * yet.
   */
  function cutPower(): void {
    const parent = postmaster();
    const children = execFileSync("ps", ["-o", "pid=", "--ppid", String(parent)], { encoding: "utf8" })
      .trim()
      .split(/\s+/)
      .filter(Boolean)
      .map(Number);
    for (const pid of [parent, ...children]) {
      try {
        process.kill(pid, "SIGKILL");
      } catch {
        // gone already
      }
    }
  }

  async function startAgain(): Promise<void> {
    for (let turn = 0; turn < 200; turn++) {
      try {
        await startPostgres(local);
        return;
      } catch {
        await new Promise((next) => setTimeout(next, 200));
      }
    }
    throw new Error("PostgreSQL did not start again.");
  }

  test("nothing acknowledged is lost, and nothing is sent twice", async () => {
    await scene.moveTo(TUESDAY);
    const links: { token: string; personId: string }[] = [];
    for (let n = 0; n < ASKS; n++) {
      const { person } = await scene.finishVisit({ phone: null });
      links.push({ token: (await scene.askOf(person.id)).token, personId: person.id });
    }
    await scene.moveTo(TUESDAY + 3 * HOUR);
    const acknowledged = new Set<string>();
    let stopped = false;
    const sending = (async () => {
      while (!stopped) {
        await sendDue(TUESDAY + 3 * HOUR).catch(() => {});
        await new Promise((next) => setTimeout(next, 20));
      }
    })();
    const answering = (async () => {
      for (const { token } of links) {
        for (;;) {
          const response = await post(`${harness.env.APP_URL}/a/${token}/words`, {
            words: `It was fine, ${token}.`,
          }).catch(() => null);
          if (response?.status === 303) {
            acknowledged.add(token);
            break;
          }
          await new Promise((next) => setTimeout(next, 20));
        }
      }
    })();
    const progress = standstill();
    for (let cut = 1; cut <= 4; cut++) {
      // Each time a good part has been answered since.
      while (acknowledged.size < (cut * ASKS) / 5) {
        progress(acknowledged.size);
        await new Promise((next) => setTimeout(next, 10));
      }
      cutPower();
      const told = [...acknowledged];
      await startAgain();
      const kept = await answersKept();
      expect(told.filter((token) => !kept.has(token))).toEqual([]);
    }
    await answering;
    const waiting = standstill();
    for (;;) {
      const { rows: due } = await harness.owner.query(
        "select count(*)::int as n from messages where state in ('planned', 'sending')",
      );
      const { n } = due[0];
      waiting(n);
      if (n === 0) break;
      await new Promise((next) => setTimeout(next, 200));
    }
    stopped = true;
    await sending;
    const kept = await answersKept();
    expect(links.filter(({ token }) => !kept.has(token))).toEqual([]);
    const { rows } = await harness.owner.query(
      "select person_id, count(*)::int as n from messages where direction = 'out' and sent_at is not null group by 1 having count(*) > 1",
    );
    expect(rows).toEqual([]);
    const addresses = [...harness.town.mail.mails.values()].map(({ to }) => to);
    expect(new Set(addresses).size).toBe(addresses.length);
  }, 1_800_000);

  async function answersKept(): Promise<Set<string>> {
    for (;;) {
      try {
        const { rows } = await harness.owner.query(
          "select a.token from answers w join asks a on a.id = w.ask_id where w.words = 'It was fine, ' || a.token || '.'",
        );
        return new Set(rows.map(({ token }) => token));
      } catch {
        await new Promise((next) => setTimeout(next, 100));
      }
    }
  }
});
