import pg from "pg";
import { starterRules } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";
import { installPlan } from "@/features/plans";
import { closeApart } from "@/platform/apart";
import { forgetAuth } from "@/platform/auth";
import { setDemoClock } from "@/platform/clock";
import { closeDatabase, withAgency, withClient, workFor } from "@/platform/database";
import { forgetEnvironment } from "@/platform/environment";
import { closeMail } from "@/platform/mail";
import { closeLimits } from "@/platform/publicLimit";
import { encrypt } from "@/platform/secrets";
import { agencies } from "@/schema/accounts";
import { branches, clients, listings, services, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { serveCustomerPages } from "../../scripts/customerPages";
import { appUrlOf, recreatePrepared } from "../../scripts/database";
import { isFree } from "../../scripts/local";
import { COMMONS_CLIENT, commonsSecret } from "../../standins/guides";
import { Town, type TownOptions, townPorts } from "../../standins/town";
import { placeKey } from "../../standins/waypost";

/** A database of its own, the simulated town and the customers' pages, all real, for one test file. */
export type Harness = {
  town: Town;
  ownerUrl: string;
  env: Record<string, string>;
  waypostUrl: string;
  daybookUrl: string;
  owner: pg.Pool;
  addClient: (change?: Partial<typeof clients.$inferInsert>) => Promise<TestClient>;
  stop: () => Promise<void>;
};

export type TestClient = {
  id: string;
  branchId: string;
  serviceId: string;
  planId: string;
  place: string;
  slug: string;
};

export const SECRETS = {
  mailHook: "mail-hook-secret",
  textHook: "text-hook-secret",
  textKey: "text-key",
  waypost: "waypost-secret",
};

type Outside = { seed: number; places: { slug: string; name: string }[]; senders: TownOptions["senders"] };

/** `outside` says which town there is; without it, one with eighty nameless places and nobody living in it. */
export async function startHarness(name: string, outside?: Outside): Promise<Harness> {
  const adminUrl = process.env.TEST_DATABASE_URL;
  if (!adminUrl) throw new Error("TEST_DATABASE_URL is not set: run the tests with npm test or npm run check.");
  const appPassword = process.env.TEST_APP_PASSWORD ?? "estima-test";
  const ownerUrl = await recreatePrepared(adminUrl, `estima_${name}`, appPassword);
  const appUrl = appUrlOf(ownerUrl, appPassword);
  const webPort = await freeRun(7);
  const base = webPort + 1;
  const ports = townPorts(base);
  const at = (port: number) => `http://127.0.0.1:${port}`;
  const env = {
    DATABASE_APP_URL: appUrl,
    APP_URL: at(webPort),
    ESTIMA_SECRET: "test-secret-of-at-least-thirty-two-letters",
    ESTIMA_DEMO: "1",
    SMTP_URL: `smtp://127.0.0.1:${ports.smtp}`,
    MAIL_HOOK_SECRET: SECRETS.mailHook,
    TEXT_GATEWAY_URL: at(ports.texts),
    TEXT_GATEWAY_KEY: SECRETS.textKey,
    TEXT_HOOK_SECRET: SECRETS.textHook,
    OUTBOUND_ALLOW: [ports.waypost, ports.daybook, ports.town, ports.texts, ports.mail].map(at).join(","),
    TOWN_URL: at(ports.town),
    WAYPOST_URL: at(ports.waypost),
    COMMONS_URL: `${at(ports.town)}/commons`,
    COMMONS_CLIENT_ID: COMMONS_CLIENT,
    COMMONS_CLIENT_SECRET: commonsSecret(SECRETS.waypost),
    TENFOLD_URL: `${at(ports.town)}/tenfold`,
    RESOLVER_URL: `${at(ports.town)}/resolve`,
    LOG_LEVEL: "silent",
  };
  Object.assign(process.env, env);
  const nameless = Array.from({ length: 80 }, (_, index) => ({ slug: `place-${index}`, name: `Place ${index}` }));
  forgetEnvironment();
  forgetAuth();
  closeLimits();
  // Something late of a part before may have opened connections to its database again.
  await closeDatabase();
  // The clock of another installation may stand still in this process.
  await setDemoClock(Date.now());
  const town = new Town({
    basePort: base,
    folder: null,
    estimaUrl: at(webPort),
    secrets: SECRETS,
    // Tests ask more in a minute than anybody would.
    tenfoldCalls: 1_000_000,
    ...(outside ?? { seed: 7, places: nameless, senders: [] }),
  });
  await town.start();
  const pages = await serveCustomerPages(webPort);
  const owner = new pg.Pool({ connectionString: ownerUrl, max: 2 });
  const agency = { id: newId() };
  await withAgency({ agencyId: agency.id }, (tx) => tx.insert(agencies).values({ ...agency, name: "Test agency" }));
  let count = 0;
  const waypostUrl = at(ports.waypost);
  return {
    town,
    ownerUrl,
    env,
    waypostUrl,
    daybookUrl: at(ports.daybook),
    owner,
    addClient: async (change = {}) => {
      const index = count++;
      const id = newId();
      const place = `place-${index}`;
      const ids = { branchId: newId(), serviceId: newId(), planId: newId() };
      const week = weekOf([0, 1, 2, 3, 4, 5], 9 * 60, 19 * 60);
      await withClient(workFor(id), async (tx) => {
        await tx.insert(clients).values({
          id,
          agencyId: agency.id,
          slug: `client-${index}`,
          name: `Test Vets ${index}`,
          country: "GB",
          zone: "Europe/London",
          senderEmail: `hello@client${index}.example`,
          senderConfirmedAt: Date.now(),
          postalAddress: "1 Lane, Merrow Bay",
          textNumber: index < 10 ? `+44770090099${index}` : `+441134960${String(index).padStart(3, "0")}`,
          sendHours: { text: week, email: week },
          ...change,
        });
        await tx
          .insert(branches)
          .values({ id: ids.branchId, clientId: id, name: "Fenwick", zone: "Europe/London", address: "1 Lane" });
        await tx.insert(services).values([
          { id: ids.serviceId, clientId: id, name: "Check-up" },
          { clientId: id, name: "End-of-life care", neverAsk: true },
        ]);
        await tx.insert(teamMembers).values({ clientId: id, name: "Dr Hale" });
        await installPlan(tx, workFor(id), {
          id: ids.planId,
          name: "After a visit",
          rules: starterRules(),
          runningSince: 0,
        });
        await tx.insert(listings).values({
          clientId: id,
          branchId: ids.branchId,
          site: "Waypost",
          url: `${waypostUrl}/places/${place}`,
          connector: "waypost",
          connectorUrl: `${waypostUrl}/api/places/${place}`,
          connectorKey: encrypt(placeKey(SECRETS.waypost, place)),
          collectAt: 0,
        });
      });
      return { id, place, ...ids, slug: `client-${index}` };
    },
    stop: async () => {
      // A mail server waits for those who are still connected to it.
      await closeMail();
      await town.stop();
      // What a page has begun ends before the connections do.
      await pages.stop();
      closeApart();
      await owner.end();
      await closeDatabase();
    },
  };
}

/**
 * The first of `length` neighbouring ports that are all free now: below those that the system hands out by itself, and
 * of a range that no other runner of tests takes its own from.
 */
async function freeRun(length: number): Promise<number> {
  const runner = (Number(process.env.JEST_WORKER_ID ?? 1) - 1) % 4;
  for (let tries = 0; tries < 50; tries++) {
    const first = 20000 + runner * 3000 + Math.floor(Math.random() * 2900);
    const free = await Promise.all(Array.from({ length }, (_, index) => isFree(first + index)));
    if (free.every(Boolean)) return first;
  }
  throw new Error("No free ports.");
}
