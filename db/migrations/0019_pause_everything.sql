ALTER TABLE "clients" ADD COLUMN "paused_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "paused_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "paused_by" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "paused_why" text;