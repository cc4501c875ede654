import { customType, index, integer, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { ReviewMatching } from "@/core/reviews/importRows";
import { clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });

/** Reviews that somebody brings in by hand, of a page that nothing reads: looked at before they are kept, and undone whole. */
export const reviewImports = pgTable(
  "review_imports",
  {
    id: key(),
    clientId: clientId(),
    listingId: uuid("listing_id")
      .notNull()
      .references(() => listings.id, { onDelete: "cascade" }),
    /** The file's name, or how else it came. */
    name: text("name").notNull(),
    state: text("state").$type<"looked at" | "kept" | "undone">().notNull(),
    /** The table of the file, compressed; null once it is kept. */
    content: bytes("content"),
    matching: jsonb("matching").$type<ReviewMatching>().notNull(),
    kept: integer("kept").notNull().default(0),
    madeBy: text("made_by").notNull(),
    madeAt: instant("made_at").notNull(),
  },
  (t) => [index("review_imports_client").on(t.clientId, t.madeAt)],
);

/** What a file says of reviews is public where it comes from; the table goes when it is kept or left. */
export const reviewImportsPersonal = notPersonal(reviewImports);
