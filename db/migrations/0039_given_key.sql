-- Whoever wrote a review is looked for by their first name. A column of its own, because lower() may not run before a row policy.
ALTER TABLE "people" ADD COLUMN "given_key" text GENERATED ALWAYS AS (lower("given")) STORED;--> statement-breakpoint
CREATE INDEX "people_given_key" ON "people" ("client_id", "given_key") WHERE merged_into is null;
