-- Words of a list as one text; immutable, so that a generated column can hold it.
CREATE OR REPLACE FUNCTION estima_words(text[]) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$ select array_to_string($1, ' ') $$;
--> statement-breakpoint
CREATE TABLE "api_keys" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"hint" text NOT NULL,
	"hash" text NOT NULL,
	"scopes" text[] NOT NULL,
	"made_by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"used_at" timestamp with time zone,
	"ended_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "api_repeats" (
	"client_id" uuid NOT NULL,
	"key_id" uuid NOT NULL,
	"key" text NOT NULL,
	"call" text NOT NULL,
	"status" integer NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "api_repeats_key_id_key_pk" PRIMARY KEY("key_id","key")
);
--> statement-breakpoint
CREATE TABLE "tags" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"effect" text DEFAULT 'none' NOT NULL
);
--> statement-breakpoint
CREATE TABLE "deliveries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"feed_id" uuid NOT NULL,
	"event_id" text NOT NULL,
	"body" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"what" text,
	"visit_id" uuid,
	"person_id" uuid,
	"tries" integer DEFAULT 0 NOT NULL,
	"claimed_until" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "feeds" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"state" text DEFAULT 'on' NOT NULL,
	"branch_id" uuid,
	"service_id" uuid,
	"secret" text,
	"token" text,
	"mapping" jsonb,
	"rules" jsonb,
	"url" text,
	"etag" text,
	"last_modified" text,
	"poll_at" timestamp with time zone,
	"poll_minutes" integer DEFAULT 30 NOT NULL,
	"polled_at" timestamp with time zone,
	"said" text,
	"error" text,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "intake_rows" (
	"client_id" uuid NOT NULL,
	"intake_id" uuid NOT NULL,
	"row" integer NOT NULL,
	"state" text NOT NULL,
	"cells" jsonb,
	"problems" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"person_id" uuid,
	"before" jsonb,
	CONSTRAINT "intake_rows_intake_id_row_state_pk" PRIMARY KEY("intake_id","row","state")
);
--> statement-breakpoint
CREATE TABLE "intakes" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"source" text NOT NULL,
	"feed_id" uuid,
	"name" text NOT NULL,
	"brought_by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"content" "bytea",
	"found" jsonb,
	"shape" text,
	"choice" jsonb,
	"forecast" jsonb,
	"asks" boolean,
	"done" integer DEFAULT 0 NOT NULL,
	"total" integer DEFAULT 0 NOT NULL,
	"counts" jsonb,
	"error" text,
	"kept_at" timestamp with time zone,
	"undone_at" timestamp with time zone,
	"request_key" text
);
--> statement-breakpoint
CREATE TABLE "readings" (
	"client_id" uuid NOT NULL,
	"shape" text NOT NULL,
	"choice" jsonb NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "readings_client_id_shape_pk" PRIMARY KEY("client_id","shape")
);
--> statement-breakpoint
CREATE TABLE "seen_names" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"name" text NOT NULL,
	"target_id" uuid,
	"ignored" boolean DEFAULT false NOT NULL,
	"times" integer DEFAULT 0 NOT NULL,
	"first_seen_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "erasures" (
	"client_id" uuid NOT NULL,
	"hash" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "erasures_client_id_hash_pk" PRIMARY KEY("client_id","hash")
);
--> statement-breakpoint
CREATE TABLE "households" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"confirmed_by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "merges" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"kept_id" uuid NOT NULL,
	"gone_id" uuid NOT NULL,
	"before" jsonb NOT NULL,
	"moved" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"undone_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "set_apart" (
	"client_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"key" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "set_apart_client_id_kind_key_pk" PRIMARY KEY("client_id","kind","key")
);
--> statement-breakpoint
CREATE TABLE "views" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"query" text NOT NULL,
	"made_by" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "goes_first" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ALTER COLUMN "service_id" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "services" ADD COLUMN "retired" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "team_members" ADD COLUMN "retired" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "email_bounced_why" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "email_opted_out_how" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "text_bounced_why" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "text_opted_out_how" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "wrong_addresses" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "external_id" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "birth_date" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "postal_address" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "guardian_id" uuid;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "household_id" uuid;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "consent" jsonb;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "rest_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "rest_reason" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "last_answered_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "last_visit_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "last_branch_id" uuid;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "source" text DEFAULT 'by hand' NOT NULL;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "intake_id" uuid;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "merged_into" uuid;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "erased_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "kind" text DEFAULT 'appointment' NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "words" jsonb;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "tags" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "external_id" text;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "feed_id" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "intake_id" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "said_at" timestamp with time zone;--> statement-breakpoint
DROP INDEX "people_name";--> statement-breakpoint
ALTER TABLE "people" drop column "search";--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "search" text GENERATED ALWAYS AS (lower(given || ' ' || family || ' ' || coalesce(email, '') || ' ' || coalesce(phone, '') || ' ' || note || ' ' || coalesce(external_id, '') || ' ' || estima_words(tags))) STORED;--> statement-breakpoint
ALTER TABLE "api_keys" ADD CONSTRAINT "api_keys_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "api_repeats" ADD CONSTRAINT "api_repeats_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "api_repeats" ADD CONSTRAINT "api_repeats_key_id_api_keys_id_fk" FOREIGN KEY ("key_id") REFERENCES "public"."api_keys"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tags" ADD CONSTRAINT "tags_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "deliveries" ADD CONSTRAINT "deliveries_feed_id_feeds_id_fk" FOREIGN KEY ("feed_id") REFERENCES "public"."feeds"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "feeds" ADD CONSTRAINT "feeds_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_rows" ADD CONSTRAINT "intake_rows_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intake_rows" ADD CONSTRAINT "intake_rows_intake_id_intakes_id_fk" FOREIGN KEY ("intake_id") REFERENCES "public"."intakes"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "intakes" ADD CONSTRAINT "intakes_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "readings" ADD CONSTRAINT "readings_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seen_names" ADD CONSTRAINT "seen_names_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "erasures" ADD CONSTRAINT "erasures_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "households" ADD CONSTRAINT "households_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "merges" ADD CONSTRAINT "merges_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "set_apart" ADD CONSTRAINT "set_apart_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "views" ADD CONSTRAINT "views_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "api_keys_hash" ON "api_keys" USING btree ("hash");--> statement-breakpoint
CREATE INDEX "api_keys_client" ON "api_keys" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "api_repeats_old" ON "api_repeats" USING btree ("at");--> statement-breakpoint
CREATE UNIQUE INDEX "tags_name" ON "tags" USING btree ("client_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "deliveries_event" ON "deliveries" USING btree ("feed_id","event_id");--> statement-breakpoint
CREATE INDEX "deliveries_feed" ON "deliveries" USING btree ("client_id","feed_id","at");--> statement-breakpoint
CREATE INDEX "deliveries_due" ON "deliveries" USING btree ("at") WHERE state = 'waiting';--> statement-breakpoint
CREATE INDEX "feeds_client" ON "feeds" USING btree ("client_id");--> statement-breakpoint
CREATE UNIQUE INDEX "feeds_token" ON "feeds" USING btree ("token");--> statement-breakpoint
CREATE INDEX "feeds_due" ON "feeds" USING btree ("poll_at") WHERE poll_at is not null;--> statement-breakpoint
CREATE INDEX "intake_rows_client" ON "intake_rows" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "intakes_client" ON "intakes" USING btree ("client_id","at");--> statement-breakpoint
CREATE INDEX "intakes_feed" ON "intakes" USING btree ("feed_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "intakes_request" ON "intakes" USING btree ("client_id","request_key");--> statement-breakpoint
CREATE UNIQUE INDEX "seen_names_key" ON "seen_names" USING btree ("client_id","kind","key");--> statement-breakpoint
CREATE INDEX "seen_names_open" ON "seen_names" USING btree ("client_id") WHERE target_id is null and not ignored;--> statement-breakpoint
CREATE INDEX "households_client" ON "households" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "merges_kept" ON "merges" USING btree ("client_id","kept_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "views_name" ON "views" USING btree ("client_id","name");--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_guardian_id_people_id_fk" FOREIGN KEY ("guardian_id") REFERENCES "public"."people"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_household_id_households_id_fk" FOREIGN KEY ("household_id") REFERENCES "public"."households"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "people_external" ON "people" USING btree ("client_id","external_id") WHERE external_id is not null;--> statement-breakpoint
CREATE INDEX "people_tags" ON "people" USING gin ("tags");--> statement-breakpoint
CREATE INDEX "people_guardian" ON "people" USING btree ("guardian_id") WHERE guardian_id is not null;--> statement-breakpoint
CREATE INDEX "people_household" ON "people" USING btree ("client_id","household_id") WHERE household_id is not null;--> statement-breakpoint
CREATE INDEX "people_answered" ON "people" USING btree ("client_id","last_answered_at","id") WHERE last_answered_at is not null;--> statement-breakpoint
CREATE INDEX "people_reviewed" ON "people" USING btree ("client_id","last_reviewed_at","id") WHERE last_reviewed_at is not null;--> statement-breakpoint
CREATE INDEX "people_branch" ON "people" USING btree ("client_id","last_branch_id","family","given","id") WHERE merged_into is null and erased_at is null;--> statement-breakpoint
CREATE INDEX "people_came_back" ON "people" USING btree ("client_id","id") WHERE email_bounced_at is not null or text_bounced_at is not null;--> statement-breakpoint
CREATE INDEX "people_opted_out" ON "people" USING btree ("client_id","id") WHERE email_opted_out_at is not null or text_opted_out_at is not null;--> statement-breakpoint
CREATE INDEX "people_resting" ON "people" USING btree ("client_id","rest_until") WHERE rest_until is not null;--> statement-breakpoint
CREATE INDEX "people_intake" ON "people" USING btree ("intake_id") WHERE intake_id is not null;--> statement-breakpoint
CREATE INDEX "people_unreachable" ON "people" USING btree ("client_id","family","given","id") WHERE (email is null or email_bounced_at is not null) and (not phone_takes_texts or text_bounced_at is not null);--> statement-breakpoint
CREATE INDEX "people_excluded" ON "people" USING btree ("client_id","id") WHERE do_not_ask is not null;--> statement-breakpoint
CREATE INDEX "people_family_start" ON "people" USING btree ("client_id",lower(family) text_pattern_ops);--> statement-breakpoint
CREATE INDEX "people_given_start" ON "people" USING btree ("client_id",lower(given) text_pattern_ops);--> statement-breakpoint
CREATE INDEX "people_merged" ON "people" USING btree ("merged_into") WHERE merged_into is not null;--> statement-breakpoint
CREATE INDEX "people_client" ON "people" USING btree ("client_id","id");--> statement-breakpoint
CREATE UNIQUE INDEX "visits_external" ON "visits" USING btree ("client_id","external_id") WHERE external_id is not null;--> statement-breakpoint
CREATE INDEX "visits_intake" ON "visits" USING btree ("intake_id") WHERE intake_id is not null;--> statement-breakpoint
CREATE INDEX "visits_feed" ON "visits" USING btree ("feed_id","ends_at") WHERE feed_id is not null;--> statement-breakpoint
CREATE INDEX "visits_words" ON "visits" USING btree ("client_id") WHERE words is not null;--> statement-breakpoint
CREATE INDEX "people_name" ON "people" USING btree ("client_id","family","given","id") WHERE merged_into is null and erased_at is null;--> statement-breakpoint
CREATE INDEX IF NOT EXISTS "people_search" ON "people" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "deliveries_failed" ON "deliveries" USING btree ("feed_id") WHERE state = 'failed';--> statement-breakpoint
CREATE INDEX "messages_opened" ON "messages" USING btree ("client_id","due_at","id") WHERE opened_at is not null;--> statement-breakpoint
CREATE INDEX "messages_followed" ON "messages" USING btree ("client_id","due_at","id") WHERE followed_at is not null;--> statement-breakpoint
CREATE INDEX "answers_person" ON "answers" USING btree ("client_id","person_id");--> statement-breakpoint
CREATE INDEX "reviews_rating" ON "reviews" USING btree ("client_id","listing_id","rating") WHERE deleted_at is null;--> statement-breakpoint
-- What earlier versions did not write down beside the person.
UPDATE people p SET last_visit_at = v.at, last_branch_id = v.branch_id FROM (
  SELECT DISTINCT ON (person_id) person_id, ends_at AS at, branch_id FROM visits WHERE examined_at IS NOT NULL ORDER BY person_id, ends_at DESC
) v WHERE v.person_id = p.id;--> statement-breakpoint
UPDATE people p SET last_answered_at = a.at FROM (SELECT person_id, max(answered_at) AS at FROM asks WHERE answered_at IS NOT NULL GROUP BY 1) a WHERE a.person_id = p.id;--> statement-breakpoint
INSERT INTO tags (id, client_id, name, effect)
  SELECT gen_random_uuid(), client_id, tag, CASE WHEN tag = 'do-not-ask' THEN 'do not ask' ELSE 'none' END FROM (SELECT DISTINCT client_id, unnest(tags) AS tag FROM people) t;
