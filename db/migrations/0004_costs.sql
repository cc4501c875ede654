ALTER TABLE "clients" ADD COLUMN "part_price" integer DEFAULT 40 NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "currency" text DEFAULT 'GBP' NOT NULL;