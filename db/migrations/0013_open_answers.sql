ALTER TABLE "answers" ALTER COLUMN "ask_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ALTER COLUMN "person_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "concerns" ALTER COLUMN "person_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "concerns" ALTER COLUMN "visit_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" ALTER COLUMN "person_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "origin" text DEFAULT 'ask' NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "open_answers" jsonb;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_origin" CHECK ((origin = 'ask') = (ask_id is not null));