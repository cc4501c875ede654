-- A note that was one text belongs to the language of the business.
ALTER TABLE "clients" ALTER COLUMN "privacy_note" SET DATA TYPE jsonb USING CASE WHEN "privacy_note" IS NULL THEN NULL ELSE jsonb_build_object("language", "privacy_note") END;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "keeps_marks" boolean DEFAULT false NOT NULL;
