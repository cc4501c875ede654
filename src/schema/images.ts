import { index, integer, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { agencyId } from "./accounts";
import { bytes, instant, key } from "./columns";
import { notPersonal } from "./personal";

/** logo, header, portrait: one of each. photo: behind the words of a picture with a name, as many as plans use. */
export const IMAGE_KINDS = ["logo", "header", "portrait", "photo"] as const;
export type ImageKind = (typeof IMAGE_KINDS)[number];

/** Pictures that were uploaded, drawn anew by us: never the file as it came. */
export const images = pgTable(
  "images",
  {
    id: key(),
    agencyId: agencyId(),
    /** Of one client; null for the agency's own. */
    aboutClient: uuid("about_client"),
    /** Of one branch of that client; null for the client's own. */
    aboutBranch: uuid("about_branch"),
    kind: text("kind").$type<ImageKind>().notNull(),
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
