import { Hono } from "hono";
import { z } from "zod";

/**
 * Faults that a stand-in is told to make, for the demo and the tests. `match` is part of an address or "*"; `count` is
 * how many times (default: until taken back).
 */
export const FAULTS = [
  "bounce",
  "late bounce",
  "defer",
  "too many",
  "error",
  "time out",
  "drop receipt",
  "no pictures",
  "not json",
  "promises money",
  "half a page",
  "repeat",
  "withdrawn",
  "taken",
  "down",
] as const;
export type Fault = (typeof FAULTS)[number];

export const faultInput = z.object({
  kind: z.enum(FAULTS),
  match: z.string().min(1).max(200).default("*"),
  count: z.number().int().min(1).nullish(),
});

export class Faults {
  private rules: z.output<typeof faultInput>[] = [];

  add(rule: z.input<typeof faultInput>): void {
    this.rules.push(faultInput.parse(rule));
  }

  clear(): void {
    this.rules = [];
  }

  list(): readonly z.output<typeof faultInput>[] {
    return this.rules;
  }

  /** The fault to make for this address, if one of `kinds` is due; uses up its count. */
  take(address: string, kinds: readonly Fault[]): Fault | null {
    for (const rule of this.rules) {
      if (!kinds.includes(rule.kind) || (rule.match !== "*" && !address.includes(rule.match))) continue;
      if (rule.count !== null && rule.count !== undefined) {
        if (rule.count <= 0) continue;
        rule.count -= 1;
      }
      return rule.kind;
    }
    return null;
  }
}

/** Resolves once whoever asked has given up waiting. */
export async function givenUp({ signal }: Request): Promise<void> {
  if (!signal.aborted) await new Promise((done) => signal.addEventListener("abort", done, { once: true }));
}

/** The addresses by which a stand-in is told of faults and forgets them: `POST` and `DELETE /faults`. */
export function faultRoutes(faults: Faults): Hono {
  const app = new Hono();
  app.post("/faults", async (c) => {
    const rule = faultInput.safeParse(await c.req.json().catch(() => null));
    if (!rule.success) return c.json({ error: rule.error.issues[0].message }, 422);
    faults.add(rule.data);
    return c.json(faults.list());
  });
  app.delete("/faults", (c) => {
    faults.clear();
    return c.json([]);
  });
  return app;
}
