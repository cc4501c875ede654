import { createHash } from "node:crypto";
import { closeDatabase } from "@/platform/database";
import { closeMail } from "@/platform/mail";
import { drawIdsFrom } from "@/schema/columns";
import { Town, townPorts } from "../../standins/town";
import { serveCustomerPages } from "../customerPages";
import type { Local } from "../local";
import { LAPSED_DOMAIN, SEED } from "../seed/scenario";
import { liveHistory, townOptions } from "../seed/seed";

/** So many days are lived anew by the test that compares them with the recording. */
export const FIRST_DAYS = 2;

/** Identifiers from the seed, one after the other: a UUID of version 7 (RFC 9562) whose time counts them. */
function seededIds(): () => string {
  let count = 0;
  return () => {
    count += 1;
    const digits = createHash("sha256").update(`${SEED} ${count}`).digest("hex");
    const time = (1_767_225_600_000 + count).toString(16).padStart(12, "0");
    return `${time.slice(0, 8)}-${time.slice(8)}-7${digits.slice(0, 3)}-8${digits.slice(3, 6)}-${digits.slice(6, 18)}`;
  };
}

/** Lives the history, or its first days, in this process: one hand-over at a time, with identifiers from the seed. */
export async function liveForRecording(
  local: Local,
  env: Record<string, string>,
  folder: string,
  days?: number,
): Promise<void> {
  Object.assign(process.env, env, { SEND_CONCURRENCY: "1" });
  const base = local.port + 100;
  const town = new Town(townOptions(base, folder, env.APP_URL, local.secrets));
  const pages = await serveCustomerPages(local.port);
  await town.start();
  town.mail.faults.add({ kind: "bounce", match: `@${LAPSED_DOMAIN}` });
  drawIdsFrom(seededIds());
  try {
    await liveHistory({
      town,
      waypostUrl: `http://127.0.0.1:${townPorts(base).waypost}`,
      daybookUrl: `http://127.0.0.1:${townPorts(base).daybook}`,
      appUrl: env.APP_URL,
      waypostSecret: local.secrets.waypost,
      stopAfter: days,
      say: console.log,
    });
    await town.settled(true);
  } finally {
    drawIdsFrom(null);
    await town.stop();
    await pages.stop();
    await closeMail();
    await closeDatabase();
  }
}
