CREATE TABLE "site_accounts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"connector" text NOT NULL,
	"name" text NOT NULL,
	"access_token" text NOT NULL,
	"refresh_token" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"signed_in_by" text NOT NULL,
	"signed_in_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site_connections" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"connector" text NOT NULL,
	"name" text NOT NULL,
	"town" text NOT NULL,
	"choices" jsonb,
	"account_id" uuid,
	"sign_in_state" text,
	"sign_in_verifier" text,
	"sign_in_by" text,
	"sign_in_at" timestamp with time zone,
	"began_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "site_readings" (
	"listing_id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"cursor" text NOT NULL,
	"seen" text[] NOT NULL,
	"total" integer,
	"began_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "reviews" ALTER COLUMN "own_rating" SET DATA TYPE double precision;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "account_id" uuid;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "place_id" text;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "scale" text DEFAULT 'five' NOT NULL;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "own_rating_sum" double precision;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "failing_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "failures" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "first_read_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "read_count" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "read_total" integer;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "seen_at" timestamp with time zone;--> statement-breakpoint
UPDATE "reviews" SET "seen_at" = "collected_at";--> statement-breakpoint
ALTER TABLE "reviews" ALTER COLUMN "seen_at" SET NOT NULL;--> statement-breakpoint
UPDATE "listings" SET "first_read_at" = "collected_at", "own_rating_sum" = "rating_sum", "place_id" = nullif(regexp_replace("connector_url", '^.*/', ''), '') WHERE "connector" IS NOT NULL;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "is_reported" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "site_accounts" ADD CONSTRAINT "site_accounts_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_connections" ADD CONSTRAINT "site_connections_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_readings" ADD CONSTRAINT "site_readings_listing_id_listings_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_readings" ADD CONSTRAINT "site_readings_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "site_accounts_client" ON "site_accounts" USING btree ("client_id","connector");--> statement-breakpoint
CREATE UNIQUE INDEX "site_connections_site" ON "site_connections" USING btree ("client_id","connector");--> statement-breakpoint
CREATE INDEX "site_readings_client" ON "site_readings" USING btree ("client_id");