ALTER TABLE "asks" ADD COLUMN "answer_judged" smallint;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "answer_recommend" smallint;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "last_recommend" smallint;