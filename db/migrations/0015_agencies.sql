CREATE TABLE "account_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"who" text NOT NULL,
	"who_id" text DEFAULT nullif(current_setting('estima.user', true), ''),
	"action" text NOT NULL,
	"subject" text NOT NULL,
	"name" text NOT NULL,
	"about_client" uuid
);
--> statement-breakpoint
CREATE TABLE "client_groups" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "invitations" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"email" text NOT NULL,
	"name" text NOT NULL,
	"only_client" uuid,
	"role" text NOT NULL,
	"role_id" uuid,
	"token_hash" text NOT NULL,
	"by" text NOT NULL,
	"sent_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	"ended" text,
	CONSTRAINT "invitations_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
CREATE TABLE "roles" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"name" text NOT NULL,
	"permissions" text[] NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "slug" text DEFAULT 'agency-' || substr(md5(random()::text), 1, 12) NOT NULL;--> statement-breakpoint
-- Agencies that are here take their name; where two have the same, the later keeps what it was given.
UPDATE "agencies" a SET "slug" = named.slug FROM (
  SELECT DISTINCT ON (slug) id, slug FROM (SELECT id, trim(BOTH '-' FROM regexp_replace(lower(name), '[^a-z0-9]+', '-', 'g')) AS slug FROM "agencies") s
  WHERE slug <> '' ORDER BY slug, id) named WHERE named.id = a.id;--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "colour" text DEFAULT '#6A2156' NOT NULL;--> statement-breakpoint
ALTER TABLE "agencies" ADD COLUMN "sender_email" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "seats" ADD COLUMN "role_id" uuid;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "group_id" uuid;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "looked_after_by" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "shown_places" text[];--> statement-breakpoint
ALTER TABLE "account_entries" ADD CONSTRAINT "account_entries_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "client_groups" ADD CONSTRAINT "client_groups_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "invitations" ADD CONSTRAINT "invitations_role_id_roles_id_fk" FOREIGN KEY ("role_id") REFERENCES "public"."roles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "roles" ADD CONSTRAINT "roles_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "account_entries_time" ON "account_entries" USING btree ("agency_id","at","id");--> statement-breakpoint
CREATE UNIQUE INDEX "client_groups_name" ON "client_groups" USING btree ("agency_id","name");--> statement-breakpoint
CREATE INDEX "invitations_agency" ON "invitations" USING btree ("agency_id","ended_at");--> statement-breakpoint
CREATE UNIQUE INDEX "roles_name" ON "roles" USING btree ("agency_id","name");--> statement-breakpoint
ALTER TABLE "seats" ADD CONSTRAINT "seats_role_id_roles_id_fk" FOREIGN KEY ("role_id") REFERENCES "public"."roles"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clients" ADD CONSTRAINT "clients_group_id_client_groups_id_fk" FOREIGN KEY ("group_id") REFERENCES "public"."client_groups"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "seats_agency" ON "seats" USING btree ("agency_id");--> statement-breakpoint
ALTER TABLE "agencies" ADD CONSTRAINT "agencies_slug_unique" UNIQUE("slug");