"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { NoCalendar } from "@/core/calendar/expand";
import { EVENT_TYPES, feedMappingSchema } from "@/core/intake/events";
import { FIELDS } from "@/core/intake/fields";
import { cleanText } from "@/core/words/clean";
import { loadSetting } from "@/features/clients";
import { fetchProblemSentence, fetchSentence } from "@/locales/intake";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import {
  addFeed,
  areChoicesOfClient,
  changeFeed,
  type Feed,
  feedInput,
  findFeed,
  removeFeed,
  renewFeed,
  retryInboundEvent,
  wrongAddress,
} from "./feeds";
import { fetchFeed, takeCalendar } from "./fetched";

const gone = { ok: false as const, message: "This feed has been removed." };

/** Adds a feed and leads to its page. */
export const createFeed = action(
  atClientWith("set up"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const text = (name: string) => formText(form, name);
    const values = feedInput.safeParse({
      kind: text("kind"),
      name: text("name"),
      branchId: text("branchId"),
      serviceId: text("serviceId"),
      url: text("url"),
    });
    if (!values.success) return refusal(values.error);
    const wrong = values.data.url
      ? wrongAddress(values.data.url)
      : values.data.kind === "end of day"
        ? "Enter the address of the file."
        : null;
    if (wrong) return { ok: false, message: wrong, fields: { url: wrong } };
    const now = await clockNow();
    const feed = await withClient(access, async (tx) =>
      areChoicesOfClient(await loadSetting(tx), values.data)
        ? addFeed(tx, access, access.user.name, values.data, now)
        : null,
    );
    if (!feed) return { ok: false, message: "This branch or service has been removed. Reload the page." };
    if (feed.url) await fetchFeed({ clientId: access.clientId, feedId: feed.id });
    revalidatePath(`/c/${access.seat.slug}/set-up`, "layout");
    redirect(`/c/${access.seat.slug}/set-up/feeds/${feed.id}`);
  },
);

/** Does something with one feed of the client's; a feed that is not there is said so. */
async function withFeed(
  access: Access,
  id: string,
  work: (tx: Tx, access: Access, feed: Feed, now: number) => Promise<Exclude<ActionResult, null>>,
): Promise<Exclude<ActionResult, null>> {
  if (!z.uuid().safeParse(id).success) return gone;
  const now = await clockNow();
  const result = await withClient(access, async (tx) => {
    const feed = await findFeed(tx, access, id);
    return feed ? work(tx, access, feed, now) : gone;
  });
  revalidatePath(`/c/${access.seat.slug}/set-up`, "layout");
  return result;
}

/** Changes a feed's name, branch, service and address. */
export const saveFeed = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    return withFeed(access, id, async (tx, access, feed, now) => {
      const values = feedInput.safeParse({
        kind: feed.kind,
        name: formText(form, "name"),
        branchId: formText(form, "branchId"),
        serviceId: formText(form, "serviceId"),
        url: formText(form, "url"),
      });
      if (!values.success) return refusal(values.error) as Exclude<ActionResult, null>;
      const { name, branchId, serviceId, url } = values.data;
      const wrong = url ? wrongAddress(url) : null;
      if (wrong) return { ok: false, message: wrong, fields: { url: wrong } };
      if (!areChoicesOfClient(await loadSetting(tx), values.data))
        return { ok: false, message: "This branch or service has been removed. Reload the page." };
      const isFetched = feed.kind === "calendar" || feed.kind === "end of day";
      await changeFeed(
        tx,
        access,
        access.user.name,
        feed,
        { name, branchId, serviceId, ...(isFetched && (url || null) !== feed.url ? { url: url || null } : {}) },
        now,
      );
      return { ok: true, message: "Saved." };
    });
  },
);

/** Turns a feed on or off. */
export const switchFeed = action(
  atClientWith("set up"),
  [text, z.enum(["on", "off"])],
  async (access, id, state): Promise<Exclude<ActionResult, null>> => {
    if (state !== "on" && state !== "off") return gone;
    return withFeed(access, id, async (tx, access, feed, now) => {
      await changeFeed(tx, access, access.user.name, feed, { state }, now);
      return { ok: true, message: state === "on" ? "Turned on." : "Turned off. Nothing comes in this way." };
    });
  },
);

/** Gives a feed a new secret or link. */
export const renew = action(
  atClientWith("set up"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    return withFeed(access, id, async (tx, access, feed, now) => {
      await renewFeed(tx, access, access.user.name, feed, now);
      return {
        ok: true,
        message:
          feed.kind === "webhook"
            ? "There’s a new secret. The old one no longer works."
            : "There’s a new link. The old one no longer works.",
      };
    });
  },
);

/** Removes a feed. */
export const deleteFeed = action(
  atClientWith("set up"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    return withFeed(access, id, async (tx, access, feed, now) => {
      await removeFeed(tx, access, access.user.name, feed, now);
      return { ok: true, message: "Removed. The people and visits it brought stay." };
    });
  },
);

/** Says where in a delivery each field stands, and what its events mean. */
export const saveMapping = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    return withFeed(access, id, async (tx, access, feed, now) => {
      const text = (name: string) => formText(form, name).trim();
      const fields = Object.fromEntries(
        FIELDS.flatMap((field) => (text(`field ${field}`) ? [[field, text(`field ${field}`)]] : [])),
      );
      const types = Object.fromEntries(
        (form instanceof FormData ? [...form.keys()] : []).flatMap((key) => {
          const said = text(key);
          return key.startsWith("type ") && said ? [[cleanText(key.slice(5)), said]] : [];
        }),
      );
      const values = feedMappingSchema.safeParse({
        type: text("type") || "type",
        at: text("at") || null,
        fields,
        types,
      });
      if (!values.success)
        return { ok: false, message: `Events can mean: ${EVENT_TYPES.join(", ")}. Paths have at most 200 characters.` };
      await changeFeed(tx, access, access.user.name, feed, { mapping: values.data }, now);
      return { ok: true, message: "Saved. New deliveries are read this way; you can retry failed ones." };
    });
  },
);

const ruleInput = z.array(
  z.object({
    where: z.enum(["title", "category", "place", "anything"]),
    word: z.string().trim().max(80),
    counts: z.boolean(),
    serviceId: z
      .union([z.literal(""), z.uuid()])
      .nullable()
      .transform((service) => service || null),
  }),
);

/** Says which events of a calendar are visits, and looks at it anew. */
export const saveRules = action(
  atClientWith("set up"),
  [text, z.unknown()],
  async (access, id, rules): Promise<Exclude<ActionResult, null>> => {
    const values = ruleInput.max(30).safeParse(rules);
    if (!values.success) return { ok: false, message: "One of the rules isn’t complete." };
    const result = await withFeed(access, id, async (tx, access, feed, now) => {
      const setting = await loadSetting(tx);
      if (!values.data.every(({ serviceId }) => areChoicesOfClient(setting, { serviceId })))
        return { ok: false, message: "One of the services has been removed. Reload the page." };
      await changeFeed(tx, access, access.user.name, feed, { rules: values.data }, now);
      return { ok: true, message: feed.url ? "Saved. We’re reading the calendar again." : "Saved." };
    });
    return result;
  },
);

/** Fetches a calendar or an end-of-day file now. */
export const fetchNow = action(
  atClientWith("set up"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    if (!z.uuid().safeParse(id).success) return gone;
    await fetchFeed({ clientId: access.clientId, feedId: id });
    const feed = await withClient(access, (tx) => findFeed(tx, access, id));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!feed) return gone;
    return feed.problem
      ? { ok: false, message: fetchProblemSentence(feed.problem) }
      : { ok: true, message: feed.report ? fetchSentence(feed.report) : "Checked." };
  },
);

/** Takes a calendar in from a file. */
export const bringCalendar = action(
  atClientWith("set up"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const file = form instanceof FormData ? form.get("file") : null;
    if (!(file instanceof File) || file.size === 0)
      return { ok: false, message: "Choose a file.", fields: { file: "Choose a file that ends in .ics." } };
    if (file.size > 900_000)
      return {
        ok: false,
        message: "It’s bigger than 900 KB.",
        fields: { file: "It’s bigger than 900 KB. Enter its address instead." },
      };
    const now = await clockNow();
    const feed = z.uuid().safeParse(id).success ? await withClient(access, (tx) => findFeed(tx, access, id)) : null;
    if (feed?.kind !== "calendar") return gone;
    try {
      const report = await takeCalendar(access, feed, cleanText(await file.text()), now);
      revalidatePath(`/c/${access.seat.slug}`, "layout");
      return { ok: true, message: fetchSentence(report) };
    } catch (error) {
      if (error instanceof NoCalendar) {
        const message = fetchProblemSentence({ code: "not a calendar" });
        return { ok: false, message, fields: { file: message } };
      }
      throw error;
    }
  },
);

/** Works on failed deliveries once more: one, or all of the feed. */
export const deliverAgain = action(
  atClientWith("set up"),
  [text, text.nullable()],
  async (access, id, deliveryId): Promise<Exclude<ActionResult, null>> => {
    if (deliveryId !== null && !z.uuid().safeParse(deliveryId).success) return gone;
    return withFeed(access, id, async (tx, access, feed) => {
      const count = await retryInboundEvent(tx, access, feed.id, deliveryId);
      return count > 0
        ? { ok: true, message: `${count} tried again.` }
        : { ok: false, message: "There’s nothing to retry." };
    });
  },
);
