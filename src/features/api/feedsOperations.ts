import { z } from "@hono/zod-openapi";
import { eq } from "drizzle-orm";
import { changeFeed, findFeed, retryInboundEvent } from "@/features/intake";
import { feeds, inboundEvents } from "@/schema/feeds";
import * as m from "./models";
import { missing, type Operation, oneOf, page, pageOf } from "./operation";

/** Feeds and what they delivered, as the API gives and takes them. */
export const FEEDS: Operation[] = [
  {
    id: "listFeeds",
    method: "GET",
    path: "/feeds",
    scope: "feeds:read",
    summary: "Feeds; secrets and links are never given",
    query: z.object(page),
    gives: { model: m.feedModel, many: true },
    run: (call) => pageOf(call, feeds, [], m.feedJson),
  },
  {
    id: "getFeed",
    method: "GET",
    path: "/feeds/{id}",
    scope: "feeds:read",
    summary: "One feed",
    gives: { model: m.feedModel },
    run: async (call) => ({ body: m.feedJson(await oneOf(call, feeds, "feed")) }),
  },
  {
    id: "changeFeed",
    method: "PATCH",
    path: "/feeds/{id}",
    scope: "feeds:write",
    summary: "Turn a feed on or off",
    body: m.feedChange,
    gives: { model: m.feedModel },
    run: async (call) => {
      const feed = await findFeed(call.tx, call.scope, call.path.id);
      if (!feed) throw missing("feed");
      await changeFeed(call.tx, call.scope, call.who, feed, call.body as z.output<typeof m.feedChange>, call.now);
      return { body: m.feedJson(await oneOf(call, feeds, "feed")) };
    },
  },
  {
    id: "listDeliveries",
    method: "GET",
    path: "/feeds/{id}/deliveries",
    scope: "feeds:read",
    summary: "What a webhook feed delivered, oldest first",
    query: z.object(page),
    gives: { model: m.deliveryModel, many: true },
    run: async (call) => {
      await oneOf(call, feeds, "feed");
      return pageOf(call, inboundEvents, [eq(inboundEvents.feedId, call.path.id)], (row) =>
        m.deliveryJson(row, call.setting.client.zone, call.now),
      );
    },
  },
  {
    id: "retryDeliveries",
    method: "POST",
    path: "/feeds/{id}/deliveries/retry",
    scope: "feeds:write",
    summary: "Retry a feed's failed deliveries",
    gives: { model: z.object({ again: z.int() }).meta({ id: "Again" }) },
    run: async (call) => {
      await oneOf(call, feeds, "feed");
      return { body: { again: await retryInboundEvent(call.tx, call.scope, call.path.id, null) } };
    },
  },
];
