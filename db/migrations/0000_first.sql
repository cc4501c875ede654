CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE TABLE "accounts" (
	"id" text PRIMARY KEY NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"user_id" text NOT NULL,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"password" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "agencies" (
	"id" uuid PRIMARY KEY NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "demo_clock" (
	"id" integer PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"skipping_to" timestamp with time zone,
	"skip_from" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "public_hits" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"until" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "seats" (
	"id" uuid PRIMARY KEY NOT NULL,
	"user_id" text NOT NULL,
	"agency_id" uuid NOT NULL,
	"only_client" uuid,
	"role" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "sessions" (
	"id" text PRIMARY KEY NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"token" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"user_id" text NOT NULL,
	CONSTRAINT "sessions_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "sign_in_attempts" (
	"id" text PRIMARY KEY NOT NULL,
	"key" text NOT NULL,
	"count" integer NOT NULL,
	"last_request" bigint NOT NULL,
	CONSTRAINT "sign_in_attempts_key_unique" UNIQUE("key")
);
--> statement-breakpoint
CREATE TABLE "users" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "users_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "verifications" (
	"id" text PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "answers" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"ask_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"rating" integer,
	"words" text,
	"given_at" timestamp with time zone NOT NULL,
	"words_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sites_followed" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"ask_id" uuid NOT NULL,
	"listing_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "asks" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"plan_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"visit_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"token" text NOT NULL,
	"anchor_at" timestamp with time zone NOT NULL,
	"by_hand" boolean DEFAULT false NOT NULL,
	"asked_by" text,
	"chosen_channel" text,
	"sent_count" integer DEFAULT 0 NOT NULL,
	"last_sent_at" timestamp with time zone,
	"stop" text,
	"ended" text,
	"ended_at" timestamp with time zone,
	"answered_at" timestamp with time zone,
	"site_followed_at" timestamp with time zone,
	"trace" jsonb,
	"created_at" timestamp with time zone NOT NULL,
	"request_key" text,
	CONSTRAINT "asks_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "audit_entries" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"who" text NOT NULL,
	"deed" text NOT NULL,
	"subject" text NOT NULL,
	"subject_id" uuid,
	"details" jsonb
);
--> statement-breakpoint
CREATE TABLE "branches" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"zone" text NOT NULL,
	"address" text NOT NULL,
	"phone" text,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "clients" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"slug" text NOT NULL,
	"name" text NOT NULL,
	"country" text NOT NULL,
	"zone" text NOT NULL,
	"language" text DEFAULT 'en' NOT NULL,
	"colour" text DEFAULT '#6A2156' NOT NULL,
	"sender_email" text NOT NULL,
	"postal_address" text NOT NULL,
	"text_number" text NOT NULL,
	"send_hours" jsonb NOT NULL,
	"closed_dates" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"keeps_holidays" boolean DEFAULT true NOT NULL,
	"gap_minutes" integer DEFAULT 240 NOT NULL,
	"answer_within_hours" integer DEFAULT 4 NOT NULL,
	"booked_counts_as_finished" boolean DEFAULT true NOT NULL,
	CONSTRAINT "clients_slug_unique" UNIQUE("slug"),
	CONSTRAINT "clients_text_number_unique" UNIQUE("text_number")
);
--> statement-breakpoint
CREATE TABLE "listings" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"site" text NOT NULL,
	"url" text NOT NULL,
	"position" integer DEFAULT 0 NOT NULL,
	"connector" text,
	"connector_url" text,
	"connector_key" text,
	"collect_at" timestamp with time zone,
	"collected_at" timestamp with time zone,
	"collect_error" text,
	"cursor" text
);
--> statement-breakpoint
CREATE TABLE "services" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"never_ask" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "team_members" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "concerns" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"answer_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"visit_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"rating" integer,
	"words" text NOT NULL,
	"state" text NOT NULL,
	"opened_at" timestamp with time zone NOT NULL,
	"answer_by" timestamp with time zone NOT NULL,
	"taken_by" text,
	"taken_at" timestamp with time zone,
	"answered_at" timestamp with time zone,
	"outcome" text,
	"outcome_note" text,
	"closed_at" timestamp with time zone,
	"closed_by" text
);
--> statement-breakpoint
CREATE TABLE "messages" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"branch_id" uuid,
	"ask_id" uuid,
	"concern_id" uuid,
	"direction" text NOT NULL,
	"channel" text NOT NULL,
	"step" integer,
	"state" text NOT NULL,
	"reason" text DEFAULT '' NOT NULL,
	"due_at" timestamp with time zone,
	"address" text,
	"subject" text,
	"body" text,
	"parts" integer,
	"attempts" integer DEFAULT 0 NOT NULL,
	"claim_id" uuid,
	"claimed_until" timestamp with time zone,
	"gateway_id" text,
	"written_by" text,
	"sent_at" timestamp with time zone,
	"delivered_at" timestamp with time zone,
	"opened_at" timestamp with time zone,
	"followed_at" timestamp with time zone,
	"ended_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "people" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"given" text NOT NULL,
	"family" text DEFAULT '' NOT NULL,
	"email" text,
	"email_bounced_at" timestamp with time zone,
	"email_opted_out_at" timestamp with time zone,
	"phone" text,
	"phone_takes_texts" boolean DEFAULT false NOT NULL,
	"text_bounced_at" timestamp with time zone,
	"text_opted_out_at" timestamp with time zone,
	"zone" text,
	"tags" text[] DEFAULT '{}'::text[] NOT NULL,
	"do_not_ask" text,
	"note" text DEFAULT '' NOT NULL,
	"last_asked_at" timestamp with time zone,
	"last_message_at" timestamp with time zone,
	"last_reviewed_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"search" text GENERATED ALWAYS AS (lower(given || ' ' || family || ' ' || coalesce(email, '') || ' ' || coalesce(phone, '') || ' ' || note)) STORED
);
--> statement-breakpoint
CREATE TABLE "plans" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"rules" jsonb NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"running_since" timestamp with time zone NOT NULL,
	"position" integer DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "reviews" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"listing_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"external_id" text NOT NULL,
	"author" text NOT NULL,
	"scale" text NOT NULL,
	"own_rating" integer NOT NULL,
	"rating" integer NOT NULL,
	"words" text NOT NULL,
	"written_at" timestamp with time zone NOT NULL,
	"collected_at" timestamp with time zone NOT NULL,
	"edited_at" timestamp with time zone,
	"deleted_at" timestamp with time zone,
	"reply" text,
	"reply_state" text DEFAULT 'none' NOT NULL,
	"reply_error" text,
	"reply_by" text,
	"replied_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "visits" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"service_id" uuid NOT NULL,
	"team_member_id" uuid,
	"about" text,
	"ends_at" timestamp with time zone NOT NULL,
	"outcome" text NOT NULL,
	"source" text NOT NULL,
	"examine_at" timestamp with time zone,
	"decision" text,
	"reason" text,
	"trace" jsonb,
	"examined_at" timestamp with time zone,
	"claimed_until" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL,
	"request_key" text
);
--> statement-breakpoint
ALTER TABLE "accounts" ADD CONSTRAINT "accounts_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seats" ADD CONSTRAINT "seats_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "seats" ADD CONSTRAINT "seats_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sessions" ADD CONSTRAINT "sessions_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_ask_id_asks_id_fk" FOREIGN KEY ("ask_id") REFERENCES "public"."asks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sites_followed" ADD CONSTRAINT "sites_followed_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sites_followed" ADD CONSTRAINT "sites_followed_ask_id_asks_id_fk" FOREIGN KEY ("ask_id") REFERENCES "public"."asks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sites_followed" ADD CONSTRAINT "sites_followed_listing_id_listings_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_visit_id_visits_id_fk" FOREIGN KEY ("visit_id") REFERENCES "public"."visits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "audit_entries" ADD CONSTRAINT "audit_entries_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "branches" ADD CONSTRAINT "branches_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "clients" ADD CONSTRAINT "clients_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listings" ADD CONSTRAINT "listings_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "listings" ADD CONSTRAINT "listings_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "services" ADD CONSTRAINT "services_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "team_members" ADD CONSTRAINT "team_members_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concerns" ADD CONSTRAINT "concerns_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concerns" ADD CONSTRAINT "concerns_answer_id_answers_id_fk" FOREIGN KEY ("answer_id") REFERENCES "public"."answers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concerns" ADD CONSTRAINT "concerns_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concerns" ADD CONSTRAINT "concerns_visit_id_visits_id_fk" FOREIGN KEY ("visit_id") REFERENCES "public"."visits"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concerns" ADD CONSTRAINT "concerns_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_ask_id_asks_id_fk" FOREIGN KEY ("ask_id") REFERENCES "public"."asks"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_concern_id_concerns_id_fk" FOREIGN KEY ("concern_id") REFERENCES "public"."concerns"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "people" ADD CONSTRAINT "people_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plans" ADD CONSTRAINT "plans_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_listing_id_listings_id_fk" FOREIGN KEY ("listing_id") REFERENCES "public"."listings"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "reviews" ADD CONSTRAINT "reviews_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_service_id_services_id_fk" FOREIGN KEY ("service_id") REFERENCES "public"."services"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "visits" ADD CONSTRAINT "visits_team_member_id_team_members_id_fk" FOREIGN KEY ("team_member_id") REFERENCES "public"."team_members"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "accounts_user" ON "accounts" USING btree ("user_id");--> statement-breakpoint
CREATE UNIQUE INDEX "seats_once" ON "seats" USING btree ("user_id","agency_id","only_client");--> statement-breakpoint
CREATE INDEX "sessions_user" ON "sessions" USING btree ("user_id");--> statement-breakpoint
CREATE UNIQUE INDEX "answers_ask" ON "answers" USING btree ("ask_id");--> statement-breakpoint
CREATE INDEX "answers_given" ON "answers" USING btree ("client_id","given_at");--> statement-breakpoint
CREATE UNIQUE INDEX "sites_followed_once" ON "sites_followed" USING btree ("ask_id","listing_id");--> statement-breakpoint
CREATE INDEX "sites_followed_at" ON "sites_followed" USING btree ("client_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "asks_one_open" ON "asks" USING btree ("client_id","person_id") WHERE stop is null and ended is null;--> statement-breakpoint
CREATE UNIQUE INDEX "asks_request" ON "asks" USING btree ("client_id","request_key");--> statement-breakpoint
CREATE INDEX "asks_person" ON "asks" USING btree ("client_id","person_id","created_at");--> statement-breakpoint
CREATE INDEX "asks_visit" ON "asks" USING btree ("client_id","visit_id");--> statement-breakpoint
CREATE INDEX "asks_made" ON "asks" USING btree ("client_id","created_at");--> statement-breakpoint
CREATE INDEX "audit_subject" ON "audit_entries" USING btree ("client_id","subject_id","at");--> statement-breakpoint
CREATE INDEX "branches_client" ON "branches" USING btree ("client_id","position");--> statement-breakpoint
CREATE INDEX "clients_agency" ON "clients" USING btree ("agency_id");--> statement-breakpoint
CREATE INDEX "listings_branch" ON "listings" USING btree ("client_id","branch_id","position");--> statement-breakpoint
CREATE INDEX "listings_due" ON "listings" USING btree ("collect_at");--> statement-breakpoint
CREATE UNIQUE INDEX "services_name" ON "services" USING btree ("client_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "team_members_name" ON "team_members" USING btree ("client_id","name");--> statement-breakpoint
CREATE UNIQUE INDEX "concerns_answer" ON "concerns" USING btree ("answer_id");--> statement-breakpoint
CREATE INDEX "concerns_state" ON "concerns" USING btree ("client_id","state","opened_at");--> statement-breakpoint
CREATE INDEX "concerns_person" ON "concerns" USING btree ("client_id","person_id");--> statement-breakpoint
CREATE INDEX "messages_due" ON "messages" USING btree ("due_at") WHERE state in ('planned', 'sending');--> statement-breakpoint
CREATE UNIQUE INDEX "messages_step" ON "messages" USING btree ("ask_id","step") WHERE direction = 'out' and step is not null and state not in ('bounced', 'failed');--> statement-breakpoint
CREATE UNIQUE INDEX "messages_incoming" ON "messages" USING btree ("client_id","gateway_id") WHERE direction = 'in';--> statement-breakpoint
CREATE INDEX "messages_person" ON "messages" USING btree ("client_id","person_id","created_at");--> statement-breakpoint
CREATE INDEX "messages_ask" ON "messages" USING btree ("client_id","ask_id");--> statement-breakpoint
CREATE INDEX "messages_concern" ON "messages" USING btree ("client_id","concern_id");--> statement-breakpoint
CREATE INDEX "messages_log" ON "messages" USING btree ("client_id","due_at","id");--> statement-breakpoint
CREATE INDEX "messages_state" ON "messages" USING btree ("client_id","state","due_at","id");--> statement-breakpoint
CREATE INDEX "people_email" ON "people" USING btree ("client_id","email");--> statement-breakpoint
CREATE INDEX "people_phone" ON "people" USING btree ("client_id","phone");--> statement-breakpoint
CREATE INDEX "people_name" ON "people" USING btree ("client_id","family","given","id");--> statement-breakpoint
CREATE INDEX "people_search" ON "people" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "plans_client" ON "plans" USING btree ("client_id","position");--> statement-breakpoint
CREATE UNIQUE INDEX "reviews_external" ON "reviews" USING btree ("listing_id","external_id");--> statement-breakpoint
CREATE INDEX "reviews_written" ON "reviews" USING btree ("client_id","written_at");--> statement-breakpoint
CREATE INDEX "reviews_waiting" ON "reviews" USING btree ("client_id","reply_state","rating","written_at");--> statement-breakpoint
CREATE INDEX "visits_day" ON "visits" USING btree ("client_id","ends_at");--> statement-breakpoint
CREATE INDEX "visits_person" ON "visits" USING btree ("client_id","person_id","ends_at");--> statement-breakpoint
CREATE INDEX "visits_due" ON "visits" USING btree ("examine_at") WHERE examine_at is not null;--> statement-breakpoint
CREATE INDEX "visits_request" ON "visits" USING btree ("client_id","request_key");