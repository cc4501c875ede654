import { z } from "zod";

/** Where a page of a list begins, as it stands in an address: the instant and the id of the last row before it, "1795543500000~id". */
export const pageKey = z
  .string()
  .transform((text) => {
    const [at, id] = text.split("~");
    return Number.isFinite(Number(at)) && Math.abs(Number(at)) < 8e15 && z.uuid().safeParse(id).success ? { at: Number(at), id } : null;
  })
  .nullable()
  .catch(null);
