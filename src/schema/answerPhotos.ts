import { integer, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import { answers } from "./answers";
import { branches, clientId } from "./clients";
import { bytes, instant, key } from "./columns";
import { personal } from "./personal";

/** A photo that a customer sent with an answer, drawn anew by us: for the business alone, one an answer. */
export const answerPhotos = pgTable(
  "answer_photos",
  {
    id: key(),
    clientId: clientId(),
    answerId: uuid("answer_id")
      .notNull()
      .references(() => answers.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    /** IANA media type of what is kept. */
    type: text("type").notNull(),
    /** Pixels. */
    width: integer("width").notNull(),
    height: integer("height").notNull(),
    content: bytes("content").notNull(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [uniqueIndex("answer_photos_answer").on(t.answerId)],
);

export const answerPhotosPersonal = personal(answerPhotos, {
  owners: [{ column: answerPhotos.answerId, of: answers.id, owner: answers.personId }],
  merge: "follows",
  erase: "delete",
  exports: { as: "photos", only: ["width", "height", "createdAt"] },
});
