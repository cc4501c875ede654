import { gzipSync } from "node:zlib";

/**
 * The process that works on files from outside, one after the other, started by `platform/apart.ts` with so much memory
 * and time. It holds no secret and no connection. Each kind of work loads what it needs when it is first wanted.
 */

const WORK: Record<string, (input: never) => Promise<unknown>> = {
  list: async (bytes: Uint8Array) => {
    const { readListBytes, Unreadable } = await import("@/features/intake/files");
    try {
      return { list: gzipSync(JSON.stringify(await readListBytes(bytes)), { level: 1 }) };
    } catch (error) {
      // What else went wrong is the file's doing too: there is nothing in it that this could read.
      return { problem: error instanceof Unreadable ? error.problem : { code: "not readable" } };
    }
  },
  calendar: async ({ text, window }: { text: string; window: { zone: string; from: number; to: number } }) => {
    const { expandCalendar, NoCalendar } = await import("@/core/calendar/expand");
    try {
      return { calendar: expandCalendar(text, window) };
    } catch (error) {
      if (error instanceof NoCalendar) return { problem: "no calendar" };
      throw error;
    }
  },
  words: async (text: string) => (await import("@/features/words/fileRows")).readRows(text),
  "client file": async (text: string) => (await import("@/core/onboarding/clientFile")).readClientFile(text),
  picture: async (wanted: { bytes: Uint8Array; most: never; as: "webp" | "png" | "jpeg" }) => {
    const { decodePicture, NotAPicture } = await import("@/features/images/decode");
    try {
      return { picture: await decodePicture(wanted.bytes, wanted.most, wanted.as) };
    } catch (error) {
      if (error instanceof NotAPicture) return { problem: error.message };
      throw error;
    }
  },
};

process.on("message", async ({ kind, input }: { kind: string; input: never }) => {
  process.send?.({ value: await WORK[kind](input) });
});
// A file that brings this down is told by the end of the process.
process.on("unhandledRejection", () => process.exit(1));
process.on("disconnect", () => process.exit(0));
