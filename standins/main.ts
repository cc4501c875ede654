import { z } from "zod";
import { Town } from "./town";
import { TRADES } from "./townsfolk/words";

/**
 * `tsx standins/main.ts` with the town's options as JSON in TOWN_OPTIONS: runs the simulated town until it is told to
 * end.
 */
const options = z
  .object({
    basePort: z.number(),
    folder: z.string().nullable(),
    seed: z.number(),
    estimaUrl: z.string().nullable(),
    secrets: z.object({ mailHook: z.string(), textHook: z.string(), textKey: z.string(), waypost: z.string() }),
    places: z.array(z.object({ slug: z.string(), name: z.string(), address: z.string().optional() })),
    siteHistory: z.number().optional(),
    senders: z.array(z.object({ match: z.string(), trade: z.enum(TRADES) })),
    bounces: z.array(z.string()).default([]),
  })
  .parse(JSON.parse(process.env.TOWN_OPTIONS ?? "{}"));

const town = new Town(options);
for (const match of options.bounces) town.mail.faults.add({ kind: "bounce", match });
await town.start();
const stop = () => town.stop().then(() => process.exit(0));
process.on("SIGTERM", stop);
process.on("SIGINT", stop);
