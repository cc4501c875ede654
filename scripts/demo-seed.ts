import { rmSync } from "node:fs";
import { join } from "node:path";
import { closeDatabase } from "@/platform/database";
import { closeMail } from "@/platform/mail";
import { Town, townPorts } from "../standins/town";
import { openLocal } from "./local";
import { LAPSED_DOMAIN } from "./seed/scenario";
import { seedDemo, serveCustomerPages, townOptions } from "./seed/seed";

/** Fills the demo's empty database. Run by scripts/demo.ts with the environment of the web application. */
const local = await openLocal();
const base = local.port + 100;
const folder = join(local.home, "town");
rmSync(folder, { recursive: true, force: true });
const town = new Town(townOptions(base, folder, `http://127.0.0.1:${local.port}`, local.secrets));
const began = Date.now();
const pages = await serveCustomerPages(local.port);
await town.start();
town.mail.faults.add({ kind: "bounce", match: `@${LAPSED_DOMAIN}` });
await seedDemo({
  town,
  waypostUrl: `http://127.0.0.1:${townPorts(base).waypost}`,
  daybookUrl: `http://127.0.0.1:${townPorts(base).daybook}`,
  appUrl: `http://127.0.0.1:${local.port}`,
  waypostSecret: local.secrets.waypost,
  historyDays: process.env.DEMO_HISTORY_DAYS ? Number(process.env.DEMO_HISTORY_DAYS) : undefined,
  say: console.log,
});
console.log(
  `  ${town.texts.texts.size} texts, ${town.mail.mails.size} mails, ${town.waypost.reviews.size} reviews in ${Math.round((Date.now() - began) / 1000)} s`,
);
await town.stop();
await pages.stop();
closeMail();
await closeDatabase();
process.exit(0);
