import { z } from "zod";
import { sayAverage } from "@/core/reviews/rating";
import { instantText } from "@/core/time/range";
import { environment } from "@/platform/environment";
import { discard } from "@/platform/hooks";
import { askSite, callSite, MOST_WORDS, SiteUnreachable, shortText, tellSite } from "../call";
import type { Connector, Tokens } from "../connector";

/**
 * Commons: people recommend a business or not, and it may answer each once. Opened by a sign-in of whoever looks after
 * the page there (OAuth 2 with PKCE); tokens live for an hour and are renewed. Its interface is documented in
 * docs/town.md.
 */

const entry = z.object({
  id: z.string().min(1).max(100),
  by: shortText(200),
  recommends: z.boolean(),
  text: shortText(MOST_WORDS),
  posted: instantText,
  changed: instantText,
  state: z.enum(["shown", "reported", "removed"]),
  answer: z.object({ text: z.string(), posted: instantText }).nullable(),
});
const page = z.object({ entries: z.array(entry).max(500), after: z.string().max(100), more: z.boolean() });
const found = z.object({
  pages: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        title: z.string().max(200),
        address: z.string().max(300),
        recommended: z.int().min(0),
        entries: z.int().min(0),
        link: z.url(),
      }),
    )
    .max(100),
});
const tokens = z.object({
  access_token: z.string().min(1).max(2000),
  refresh_token: z.string().min(1).max(2000),
  expires_in: z.number().min(1),
  account: z.string().max(200).default(""),
});

const NAME = "Commons";
const settings = () => {
  const { COMMONS_URL = "", COMMONS_CLIENT_ID = "", COMMONS_CLIENT_SECRET = "" } = environment();
  return { base: COMMONS_URL, id: COMMONS_CLIENT_ID, secret: COMMONS_CLIENT_SECRET };
};
const answerAt = (url: string, id: string) => `${url}/entries/${encodeURIComponent(id)}/answer`;

async function tokensFor(form: Record<string, string>): Promise<Tokens> {
  const { base, id, secret } = settings();
  try {
    const read = await askSite(NAME, `${base}/token`, tokens, {
      method: "POST",
      form: { ...form, client_id: id, client_secret: secret },
    });
    return {
      access: read.access_token,
      refresh: read.refresh_token,
      expiresInSeconds: read.expires_in,
      account: read.account,
    };
  } catch (error) {
    // "invalid_grant": whoever agreed once has taken it back, or too long ago.
    if (error instanceof SiteUnreachable && error.problem.code === "answered" && error.problem.status === 400)
      throw new SiteUnreachable({ code: "key refused" });
    throw error;
  }
}

export const commons: Connector = {
  id: "commons",
  name: NAME,
  scale: "recommend",
  access: "sign-in",
  reply: { longest: 1000 },
  isReachable: () => settings().base !== "" && settings().id !== "",
  placeUrl: (placeId) => `${settings().base}/api/pages/${encodeURIComponent(placeId)}`,
  search: async (name, town) => {
    const { pages } = await askSite(
      NAME,
      `${settings().base}/api/search?${new URLSearchParams({ name, town })}`,
      found,
    );
    return pages.map(({ id, title, address, recommended, entries, link }) => ({
      id,
      name: title,
      address,
      url: link,
      rating: entries === 0 ? null : sayAverage(recommended, entries, "recommend"),
      count: entries,
    }));
  },
  read: async ({ url, secret }, cursor) => {
    const read = await askSite(NAME, `${url}/entries?after=${encodeURIComponent(cursor)}`, page, { secret });
    return {
      reviews: read.entries.map((it) => ({
        id: it.id,
        author: it.by,
        value: it.recommends ? 1 : 0,
        words: it.text,
        writtenAt: Date.parse(it.posted),
        changedAt: Date.parse(it.changed),
        isDeleted: it.state === "removed",
        isReported: it.state === "reported",
        reply: it.answer && { words: it.answer.text, at: Date.parse(it.answer.posted) },
      })),
      cursor: read.after,
      more: read.more && read.entries.length > 0,
      total: null,
      holds: "changes",
      restSeconds: null,
    };
  },
  putReply: async ({ url, secret }, reviewId, words, key) => {
    const json = { text: words };
    const address = answerAt(url, reviewId);
    const posted = await callSite(NAME, address, {
      method: "POST",
      secret,
      json,
      headers: { "idempotency-key": key },
      takes: [409],
    });
    await discard(posted);
    // There is an answer already, ours or another's: this one takes its place.
    if (posted.status === 409) await tellSite(NAME, address, { method: "PATCH", secret, json });
  },
  takeDownReply: ({ url, secret }, reviewId) => tellSite(NAME, answerAt(url, reviewId), { method: "DELETE", secret }),
  signIn: {
    address: ({ state, challenge, returnTo }) => {
      const { base, id } = settings();
      return `${base}/authorize?${new URLSearchParams({
        response_type: "code",
        client_id: id,
        redirect_uri: returnTo,
        state,
        code_challenge: challenge,
        code_challenge_method: "S256",
      })}`;
    },
    redeem: ({ code, verifier, returnTo }) =>
      tokensFor({ grant_type: "authorization_code", code, code_verifier: verifier, redirect_uri: returnTo }),
    refresh: (refreshToken) => tokensFor({ grant_type: "refresh_token", refresh_token: refreshToken }),
  },
};
