import { Hono } from "hono";
import { z } from "zod";
import { Faults, faultRoutes } from "./faults";

/** The key with which the town's text service is asked. */
export const TEXT_SERVICE_KEY = "town-text-key";

const asked = z.strictObject({
  review: z.strictObject({ words: z.string(), rating: z.number().int(), language: z.string() }),
  reply: z.strictObject({ tone: z.string(), longest: z.number().int(), business: z.string() }),
});

const SAYS: Record<string, { happy: string; unhappy: string }> = {
  en: {
    happy: "What a pleasure to read. Everyone here has heard your words, and we look forward to the next time.",
    unhappy:
      "This is not what a day with us should be like. We have talked about it, and would like to hear more from you.",
  },
  es: {
    happy: "Qué alegría leer esto. Todo el equipo lo ha leído y esperamos verle pronto.",
    unhappy: "Un día con nosotros no debería ser así. Lo hemos hablado y nos gustaría saber más.",
  },
};

/**
 * A simulated text service: it writes a draft for a review, and takes nothing but what docs/text-service.md names. Faults
 * make it promise money, be busy, or answer nonsense.
 */
export class TextServiceStandIn {
  readonly faults = new Faults();
  /** What it was asked, the latest last. */
  readonly asked: z.infer<typeof asked>[] = [];

  routes(): Hono {
    const app = new Hono();
    app.post("/drafts", async (c) => {
      if (c.req.header("authorization") !== `Bearer ${TEXT_SERVICE_KEY}`) return c.json({ error: "unknown key" }, 401);
      const read = asked.safeParse(await c.req.json().catch(() => null));
      if (!read.success) return c.json({ error: z.prettifyError(read.error) }, 422);
      this.asked.push(read.data);
      const fault = this.faults.take("*", ["too many", "error", "not json", "promises money"]);
      if (fault === "too many") return c.json({ error: "busy" }, 429);
      if (fault === "error") return c.json({ error: "out of order" }, 500);
      if (fault === "not json") return c.text("<html>");
      const { review, reply } = read.data;
      const says = SAYS[review.language] ?? SAYS.en;
      const text =
        fault === "promises money"
          ? "We are sorry. Here is a voucher for 20 pounds off your next visit."
          : `${review.rating >= 4 ? says.happy : says.unhappy}\n\n${reply.business}`;
      return c.json({ text: text.slice(0, reply.longest) });
    });
    app.route("/", faultRoutes(this.faults));
    return app;
  }
}
