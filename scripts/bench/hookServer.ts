import { createServer } from "node:http";
import { serve } from "@hono/node-server";
import { sql } from "drizzle-orm";
import { handleFeedHook } from "@/features/intake";
import { rowsOf } from "@/platform/database";

/** Serves a feed's webhook beside a bare route that inserts one row, in one process and over one pool. */
serve({
  port: Number(process.argv[2]),
  hostname: "127.0.0.1",
  createServer,
  fetch: async (request) => {
    const path = new URL(request.url).pathname;
    if (path === "/bare") {
      const body = await request.json();
      await rowsOf(sql`insert into bench_rows (body) values (${JSON.stringify(body)}::jsonb)`);
      return Response.json({ kept: true }, { status: 202 });
    }
    if (path === "/health") return Response.json({ ok: true });
    return handleFeedHook(request, path.split("/").at(-1) ?? "");
  },
});
