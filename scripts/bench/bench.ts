import { join } from "node:path";
import { closeDatabase } from "@/platform/database";
import { closeMail } from "@/platform/mail";
import { townPorts } from "../../standins/town";
import { prepareDatabase, recreateDatabase } from "../database";
import { end, environmentFor, openLocal, ROOT, start, untilReady } from "../local";
import { startPostgres } from "../postgres";
import { decisionsPerSecond } from "./decisions";
import { benchClient, clearBench, planMails, throughBareMailer, throughEstima } from "./sending";

/** `npm run bench`: every figure beside its baseline, measured in turn in the same run, as a ratio. */

const MAILS = 2000;
const TURNS = 3;
const local = await openLocal(process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "bench") : join(ROOT, ".local", "bench"), 4900);
const postgres = await startPostgres(local);
const middle = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const decisions = Array.from({ length: TURNS }, () => decisionsPerSecond());
console.log(
  `next-step decisions in core: ${Math.round(middle(decisions)).toLocaleString("en-GB")} a second, ${(middle(decisions) / 100_000).toFixed(1)} times the wanted 100,000 (${TURNS} turns)`,
);

const env = { ...environmentFor(local, await prepareDatabase(await recreateDatabase(postgres.ownerUrl, "estima_bench"), local.secrets.app)), ESTIMA_DEMO: "" };
Object.assign(process.env, env);
const base = local.port + 100;
const town = start("node", ["--import", "tsx", "standins/main.ts"], {
  ...env,
  TOWN_OPTIONS: JSON.stringify({ basePort: base, folder: null, seed: 1, estimaUrl: null, secrets: local.secrets, places: [], senders: [] }),
});
try {
  await untilReady(`http://127.0.0.1:${townPorts(base).town}/health`);
  const client = await benchClient();
  const ours: number[] = [];
  const bare: number[] = [];
  // One unmeasured turn of each warms both.
  for (let turn = 0; turn <= TURNS; turn++) {
    await planMails(client, MAILS);
    const rate = await throughEstima(MAILS);
    const baseline = await throughBareMailer(MAILS);
    await clearBench(client.id);
    if (turn === 0) continue;
    ours.push(rate);
    bare.push(baseline);
    console.log(`  turn ${turn}: Estima ${Math.round(rate)} mails a second, bare mailer ${Math.round(baseline)}`);
  }
  console.log(
    `sending through the mail stand-in: ${Math.round(middle(ours))} mails a second beside ${Math.round(middle(bare))} of a bare pooled mailer: ${(middle(ours) / middle(bare)).toFixed(2)} (goal at least 0.7; ${MAILS} mails, middle of ${TURNS} turns)`,
  );
} finally {
  closeMail();
  await closeDatabase();
  await end(town);
  postgres.stop();
}
process.exit(0);
