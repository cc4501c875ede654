import { z } from "zod";
import { FIELDS } from "./fields";

/**
 * What is wrong, or worth a look, in what came in: about one field each. `text` is what stood there, at most 40
 * characters of it.
 */

const field = z.enum(FIELDS);
const text = z.string();

export const REMARK = z.discriminatedUnion("code", [
  z.object({ code: z.literal("cut"), field, most: z.int() }),
  z.object({ code: z.literal("no address"), field }),
  z.object({ code: z.literal("no name"), field }),
  z.object({ code: z.literal("neither yes nor no"), field, text }),
  z.object({ code: z.literal("not an email"), field, text }),
  z.object({ code: z.literal("not a phone"), field, text }),
  z.object({ code: z.literal("phone rounded"), field, text }),
  /** A number of another country, which could be meant: E.164. */
  z.object({ code: z.literal("phone abroad"), field, text, suggested: text }),
  z.object({ code: z.literal("several emails"), field, used: text }),
  z.object({ code: z.literal("several phones"), field, used: text }),
  z.object({ code: z.literal("guardian without address"), field }),
  z.object({ code: z.literal("not a birth date"), field, text }),
  z.object({ code: z.literal("not a date"), field, text, order: z.enum(["day first", "month first"]) }),
  z.object({ code: z.literal("no day"), field }),
  z.object({ code: z.literal("too far ahead"), field }),
  z.object({ code: z.literal("unknown outcome"), field, text }),
  z.object({ code: z.literal("not a time"), field, text }),
  z.object({ code: z.literal("unknown tag"), field, text }),
  z.object({ code: z.literal("unknown service"), field, text }),
  z.object({ code: z.literal("unknown branch"), field, text }),
  z.object({ code: z.literal("unknown team member"), field, text }),
  z.object({ code: z.literal("counts as no visit"), field, text }),
  z.object({ code: z.literal("taken for the same"), field, name: text }),
  z.object({ code: z.literal("taken for another"), field, name: text }),
  z.object({ code: z.literal("may be the same"), field, name: text }),
  z.object({ code: z.literal("erased"), field }),
  z.object({ code: z.literal("not recorded"), field }),
]);
export type Remark = z.infer<typeof REMARK>;
