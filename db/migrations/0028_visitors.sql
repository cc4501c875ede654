ALTER TABLE "asks" ADD COLUMN "opt_out_seen_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "machine_at" timestamp with time zone;