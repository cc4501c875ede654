import { closeDatabase } from "@/platform/database";
import { makeList, throughEstima } from "./lists";

/**
 * One list through Estima in a process of its own, so that its memory can be told: prints rows a second and the most
 * megabytes it held.
 */
const [clientId, count] = process.argv.slice(2);
const rate = await throughEstima(clientId, makeList(Number(count)));
console.log(JSON.stringify({ rate, megabytes: Math.round(process.resourceUsage().maxRSS / 1024) }));
await closeDatabase();
process.exit(0);
