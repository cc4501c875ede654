import { customType, index, integer, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { agencyId } from "./accounts";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });

/** Pictures that were uploaded, drawn anew by us: never the file as it came. */
export const images = pgTable(
  "images",
  {
    id: key(),
    agencyId: agencyId(),
    /** Of one client; null for the agency's own. */
    aboutClient: uuid("about_client"),
    kind: text("kind").$type<"logo">().notNull(),
    /** IANA media type of what is kept. */
    type: text("type").notNull(),
    /** Pixels. */
    width: integer("width").notNull(),
    height: integer("height").notNull(),
    content: bytes("content").notNull(),
    /** SHA-256 of the content, in hexadecimal: its ETag. */
    hash: text("hash").notNull(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [index("images_agency").on(t.agencyId, t.aboutClient)],
);

export const imagesPersonal = notPersonal(images);
