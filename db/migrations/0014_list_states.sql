-- States of lists say what is done with them, in the words of the screen.
DROP INDEX "intakes_worked";--> statement-breakpoint
ALTER TABLE "intakes" RENAME COLUMN "kept_at" TO "imported_at";--> statement-breakpoint
UPDATE "intakes" SET "state" = CASE "state" WHEN 'looking' THEN 'checking' WHEN 'keeping' THEN 'importing' WHEN 'kept' THEN 'imported' ELSE "state" END,
  "error" = CASE WHEN "error" ->> 'code' = 'not kept in time' THEN jsonb_set("error", '{code}', '"not imported in time"') ELSE "error" END
  WHERE "state" IN ('looking', 'keeping', 'kept') OR "error" ->> 'code' = 'not kept in time';--> statement-breakpoint
UPDATE "intake_rows" SET "state" = 'fixed' WHERE "state" = 'mended';--> statement-breakpoint
UPDATE "dismissed_matches" SET "kind" = 'duplicates' WHERE "kind" = 'twins';--> statement-breakpoint
CREATE INDEX "intakes_worked" ON "intakes" USING btree ("worked_until") WHERE state in ('reading', 'checking', 'importing');
