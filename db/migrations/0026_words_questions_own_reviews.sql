CREATE TABLE "own_reviews" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"answer_id" uuid NOT NULL,
	"person_id" uuid,
	"name" text NOT NULL,
	"rating" integer NOT NULL,
	"words" text NOT NULL,
	"language" text NOT NULL,
	"written_at" timestamp with time zone NOT NULL,
	"withdrawn_at" timestamp with time zone,
	"hidden_why" text,
	"hidden_by" text,
	"hidden_at" timestamp with time zone,
	"reply" text,
	"replied_by" text,
	"replied_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "agency_words" (
	"agency_id" uuid NOT NULL,
	"piece" text NOT NULL,
	"words" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	CONSTRAINT "agency_words_agency_id_piece_pk" PRIMARY KEY("agency_id","piece")
);
--> statement-breakpoint
CREATE TABLE "preview_links" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"plan_id" uuid NOT NULL,
	"sample" jsonb,
	"token_hash" text NOT NULL,
	"by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "preview_links_token_hash_unique" UNIQUE("token_hash")
);
--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "draft_words" text;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "language" text;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "aspects" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "recommend" smallint;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "more" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "may_show_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "ask_events" ADD COLUMN "variant" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "link_days" integer DEFAULT 180 NOT NULL;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "reviews_address" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "privacy_note" text;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "look" jsonb;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "variant" text;--> statement-breakpoint
ALTER TABLE "people" ADD COLUMN "page_language" text;--> statement-breakpoint
ALTER TABLE "own_reviews" ADD CONSTRAINT "own_reviews_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_reviews" ADD CONSTRAINT "own_reviews_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_reviews" ADD CONSTRAINT "own_reviews_answer_id_answers_id_fk" FOREIGN KEY ("answer_id") REFERENCES "public"."answers"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "own_reviews" ADD CONSTRAINT "own_reviews_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agency_words" ADD CONSTRAINT "agency_words_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "preview_links" ADD CONSTRAINT "preview_links_plan_id_plans_id_fk" FOREIGN KEY ("plan_id") REFERENCES "public"."plans"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "own_reviews_answer" ON "own_reviews" USING btree ("answer_id");--> statement-breakpoint
CREATE INDEX "own_reviews_shown" ON "own_reviews" USING btree ("client_id","written_at","id") WHERE withdrawn_at is null and hidden_at is null;--> statement-breakpoint
CREATE INDEX "own_reviews_all" ON "own_reviews" USING btree ("client_id","written_at","id");--> statement-breakpoint
CREATE INDEX "own_reviews_person" ON "own_reviews" USING btree ("client_id","person_id");--> statement-breakpoint
CREATE INDEX "preview_links_plan" ON "preview_links" USING btree ("client_id","plan_id");--> statement-breakpoint
ALTER TABLE "clients" ADD CONSTRAINT "clients_reviews_address_unique" UNIQUE("reviews_address");