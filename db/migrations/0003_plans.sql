CREATE TABLE "mail_domains" (
	"domain" text PRIMARY KEY NOT NULL,
	"host" text,
	"looked_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "senders" (
	"client_id" uuid NOT NULL,
	"channel" text NOT NULL,
	"month" text NOT NULL,
	"messages" integer DEFAULT 0 NOT NULL,
	"used" integer DEFAULT 0 NOT NULL,
	"left" jsonb DEFAULT '[]'::jsonb NOT NULL,
	CONSTRAINT "senders_client_id_channel_month_pk" PRIMARY KEY("client_id","channel","month")
);
--> statement-breakpoint
CREATE TABLE "occasions" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"plan_id" uuid NOT NULL,
	"person_id" uuid NOT NULL,
	"key" text NOT NULL,
	"at" timestamp with time zone,
	"examine_at" timestamp with time zone,
	"claimed_until" timestamp with time zone,
	"examined_at" timestamp with time zone,
	"decision" text,
	"reason" text,
	"trace" jsonb,
	"ask_id" uuid
);
--> statement-breakpoint
CREATE TABLE "plan_versions" (
	"plan_id" uuid NOT NULL,
	"version" integer NOT NULL,
	"client_id" uuid NOT NULL,
	"rules" jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "plan_versions_plan_id_version_pk" PRIMARY KEY("plan_id","version")
);
--> statement-breakpoint
CREATE TABLE "site_turns" (
	"client_id" uuid NOT NULL,
	"plan_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"site" text NOT NULL,
	"turns" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "site_turns_plan_id_branch_id_site_pk" PRIMARY KEY("plan_id","branch_id","site")
);
--> statement-breakpoint
DROP INDEX "messages_due";--> statement-breakpoint
DROP INDEX "messages_step";--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "scale" text DEFAULT 'five' NOT NULL;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "plan_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "done" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "first_sent_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "opened_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "is_spread" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "held_by" text;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "held_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "hurry" jsonb;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "allowance_from" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "first_site" text;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "site_why" text;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "answer_rating" integer;--> statement-breakpoint
ALTER TABLE "asks" ADD COLUMN "reviewed_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "rest_days" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "needs_consent" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "texts_an_hour" integer;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "emails_an_hour" integer;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "texts_a_month" integer;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "emails_a_month" integer;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "leaves_out_when_used_up" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "trouble" text;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "looked_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "listings" ADD COLUMN "account_domains" text[] DEFAULT '{}'::text[] NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "plan_version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "step_name" text;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "wording" text;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "hold" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "prefers" text;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "paused_why" text;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "draft" jsonb;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "draft_by" text;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "revision" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "look_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "plans" ADD COLUMN "looked_until" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "person_id" uuid;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "ask_id" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "ask_id" uuid;--> statement-breakpoint
ALTER TABLE "visits" ADD COLUMN "waits_for" uuid;--> statement-breakpoint
ALTER TABLE "senders" ADD CONSTRAINT "senders_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "occasions" ADD CONSTRAINT "occasions_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_versions" ADD CONSTRAINT "plan_versions_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_turns" ADD CONSTRAINT "site_turns_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_turns" ADD CONSTRAINT "site_turns_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "site_turns" ADD CONSTRAINT "site_turns_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "occasions_once" ON "occasions" USING btree ("plan_id","person_id","key");--> statement-breakpoint
CREATE INDEX "occasions_due" ON "occasions" USING btree ("examine_at") WHERE examine_at is not null;--> statement-breakpoint
CREATE INDEX "occasions_person" ON "occasions" USING btree ("client_id","person_id");--> statement-breakpoint
CREATE INDEX "asks_open" ON "asks" USING btree ("plan_id") WHERE stop is null and ended is null;--> statement-breakpoint
CREATE INDEX "messages_held" ON "messages" USING btree ("client_id","due_at","id") WHERE hold is not null;--> statement-breakpoint
CREATE INDEX "plans_look" ON "plans" USING btree ("look_at") WHERE look_at is not null;--> statement-breakpoint
CREATE INDEX "reviews_person" ON "reviews" USING btree ("client_id","person_id") WHERE person_id is not null;--> statement-breakpoint
CREATE INDEX "visits_ask" ON "visits" USING btree ("ask_id") WHERE ask_id is not null;--> statement-breakpoint
CREATE INDEX "visits_waiting" ON "visits" USING btree ("waits_for","ends_at") WHERE waits_for is not null;--> statement-breakpoint
CREATE INDEX "messages_due" ON "messages" USING btree ("goes_first","due_at","person_id") WHERE state in ('planned', 'sending');--> statement-breakpoint
CREATE UNIQUE INDEX "messages_step" ON "messages" USING btree ("ask_id","plan_version","step") WHERE direction = 'out' and step is not null and state not in ('bounced', 'failed', 'stopped');--> statement-breakpoint
-- What earlier versions kept in other words.
UPDATE plans SET rules = jsonb_build_object(
  'begins', '{"kind": "visit", "services": [], "branches": [], "kinds": []}'::jsonb,
  'style', 'straight away', 'question', 'five',
  'steps', (SELECT jsonb_agg(step || jsonb_build_object('key', 'step-' || n, 'part', 'first', 'from', 'business', 'onlyIf', 'always', 'others', '[]'::jsonb) ORDER BY n)
            FROM jsonb_array_elements(rules -> 'steps') WITH ORDINALITY AS s(step, n)),
  'repeat', CASE WHEN (rules ->> 'restDays')::int = 0 THEN '{"kind": "every visit"}'::jsonb ELSE jsonb_build_object('kind', 'rest', 'days', (rules ->> 'restDays')::int) END,
  'freshDays', rules -> 'freshDays', 'excludeTags', rules -> 'excludeTags', 'onlyTags', '[]'::jsonb, 'households', 'together', 'goesFirst', false, 'portions', NULL,
  'doors', rules -> 'doors', 'sites', '{"order": [], "most": 3, "mix": "order", "shares": {}}'::jsonb);--> statement-breakpoint
INSERT INTO plan_versions (plan_id, version, client_id, rules, by, at) SELECT id, version, client_id, rules, 'Estima', running_since FROM plans;--> statement-breakpoint
UPDATE asks a SET done = a.sent_count, plan_version = p.version FROM plans p WHERE p.id = a.plan_id;--> statement-breakpoint
UPDATE asks a SET first_sent_at = m.at FROM (
  SELECT ask_id, min(sent_at) AS at FROM messages WHERE ask_id IS NOT NULL AND direction = 'out' AND sent_at IS NOT NULL AND state NOT IN ('bounced', 'failed') GROUP BY 1
) m WHERE m.ask_id = a.id;--> statement-breakpoint
UPDATE asks a SET answer_rating = w.rating FROM answers w WHERE w.ask_id = a.id;--> statement-breakpoint
UPDATE messages m SET plan_version = a.plan_version FROM asks a WHERE a.id = m.ask_id AND a.plan_version <> 1;--> statement-breakpoint
UPDATE visits v SET ask_id = a.id FROM asks a WHERE a.visit_id = v.id;
