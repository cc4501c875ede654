ALTER TABLE "reviews" ADD COLUMN "language" text;--> statement-breakpoint
CREATE INDEX "reviews_language" ON "reviews" USING btree ("client_id","language","written_at") WHERE language is not null;--> statement-breakpoint
-- What was read before is read once more, for the language that it is in.
UPDATE "reviews" SET "is_unread" = true WHERE "words" <> '';
