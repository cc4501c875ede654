import { rmSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { prepareEvents } from "@/features/asks";
import { closeDatabase } from "@/platform/database";
import { closeMail } from "@/platform/mail";
import { Town, townPorts } from "../standins/town";
import { serveCustomerPages } from "./customerPages";
import { openLocal } from "./local";
import { AGENCY, DEMO_NOW, LAPSED_DOMAIN } from "./seed/scenario";
import { type DemoIds, openDemo, seedDemo, townOptions } from "./seed/seed";

/**
 * Fills the demo's database, with the environment of the web application: "live" lives its history in an empty one,
 * "open" adds what stands beside a history that was loaded. Run by scripts/stack.ts.
 */

const isLoaded = process.argv[2] === "open";
const local = await openLocal();
const base = local.port + 100;
const folder = join(local.home, "town");
if (!isLoaded) rmSync(folder, { recursive: true, force: true });
const town = new Town(townOptions(base, folder, `http://127.0.0.1:${local.port}`, local.secrets));
const began = Date.now();
const pages = await serveCustomerPages(local.port);
await town.start();
const options = {
  town,
  waypostUrl: `http://127.0.0.1:${townPorts(base).waypost}`,
  daybookUrl: `http://127.0.0.1:${townPorts(base).daybook}`,
  appUrl: `http://127.0.0.1:${local.port}`,
  waypostSecret: local.secrets.waypost,
  historyDays: process.env.DEMO_HISTORY_DAYS ? Number(process.env.DEMO_HISTORY_DAYS) : undefined,
  say: console.log,
};
if (isLoaded) {
  for (let months = 0; months < 4; months++) await prepareEvents(DEMO_NOW - months * 30 * 86_400_000);
  await openDemo(await idsOf(process.env.DEMO_OWNER_URL ?? ""), options);
} else {
  town.mail.faults.add({ kind: "bounce", match: `@${LAPSED_DOMAIN}` });
  await seedDemo(options);
}
console.log(
  `  ${town.texts.texts.size} texts, ${town.mail.mails.size} mails, ${town.waypost.reviews.size} reviews in ${Math.round((Date.now() - began) / 1000)} s`,
);
await town.stop();
await pages.stop();
await closeMail();
await closeDatabase();
process.exit(0);

async function idsOf(ownerUrl: string): Promise<DemoIds> {
  const owner = new pg.Client({ connectionString: ownerUrl });
  await owner.connect();
  const { rows } = await owner.query<{ id: string; slug: string; agency: string }>(
    "select c.id, c.slug, c.agency_id as agency from clients c join agencies a on a.id = c.agency_id where a.name = $1",
    [AGENCY],
  );
  await owner.end();
  return { agencyId: rows[0].agency, ids: Object.fromEntries(rows.map(({ id, slug }) => [slug, id])) };
}
