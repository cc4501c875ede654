CREATE TABLE "absences" (
	"client_id" uuid NOT NULL,
	"user_id" text NOT NULL,
	"until" date NOT NULL,
	"stand_in_id" text,
	CONSTRAINT "absences_client_id_user_id_pk" PRIMARY KEY("client_id","user_id")
);
--> statement-breakpoint
CREATE TABLE "concern_owners" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"branch_id" uuid,
	"team_member_id" uuid,
	"user_id" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "conversations" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"person_id" uuid,
	"branch_id" uuid,
	"address" text,
	"channel" text NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	"heard_at" timestamp with time zone NOT NULL,
	"waiting_since" timestamp with time zone,
	"is_unread" boolean DEFAULT true NOT NULL,
	"assigned_to" text,
	"assigned_to_id" text,
	"aside_until" timestamp with time zone,
	"away_told_at" timestamp with time zone,
	"help_told_at" timestamp with time zone,
	"stopped_at" timestamp with time zone,
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "shared_texts" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"number" text NOT NULL,
	"sender" text NOT NULL,
	"body" text NOT NULL,
	"gateway_id" text NOT NULL,
	"choices" uuid[] NOT NULL,
	"pictures" text[] DEFAULT '{}' NOT NULL,
	"received_at" timestamp with time zone NOT NULL,
	"asked_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "message_pictures" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"message_id" uuid NOT NULL,
	"position" integer NOT NULL,
	"address" text,
	"fetch_at" timestamp with time zone,
	"attempts" integer DEFAULT 0 NOT NULL,
	"refusal" text,
	"type" text,
	"width" integer,
	"height" integer,
	"content" "bytea",
	"created_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "agency_reply_uses" (
	"client_id" uuid NOT NULL,
	"reply_id" uuid NOT NULL,
	"uses" integer DEFAULT 0 NOT NULL,
	"used_at" timestamp with time zone,
	CONSTRAINT "agency_reply_uses_client_id_reply_id_pk" PRIMARY KEY("client_id","reply_id")
);
--> statement-breakpoint
CREATE TABLE "agency_saved_replies" (
	"id" uuid PRIMARY KEY NOT NULL,
	"agency_id" uuid NOT NULL,
	"use" text DEFAULT 'reviews' NOT NULL,
	"purpose" text NOT NULL,
	"language" text NOT NULL,
	"words" text NOT NULL,
	"changed_by" text NOT NULL,
	"changed_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "clients" DROP CONSTRAINT "clients_text_number_unique";--> statement-breakpoint
ALTER TABLE "branches" ADD COLUMN "office_hours" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "urgent_within_hours" integer;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "text_service" jsonb;--> statement-breakpoint
ALTER TABLE "clients" ADD COLUMN "away_word" jsonb;--> statement-breakpoint
ALTER TABLE "concerns" ADD COLUMN "taken_how" text;--> statement-breakpoint
ALTER TABLE "messages" ADD COLUMN "conversation_id" uuid;--> statement-breakpoint
ALTER TABLE "saved_replies" ADD COLUMN "use" text DEFAULT 'reviews' NOT NULL;--> statement-breakpoint
ALTER TABLE "absences" ADD CONSTRAINT "absences_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concern_owners" ADD CONSTRAINT "concern_owners_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concern_owners" ADD CONSTRAINT "concern_owners_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "concern_owners" ADD CONSTRAINT "concern_owners_team_member_id_team_members_id_fk" FOREIGN KEY ("team_member_id") REFERENCES "public"."team_members"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "conversations" ADD CONSTRAINT "conversations_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "conversations" ADD CONSTRAINT "conversations_person_id_people_id_fk" FOREIGN KEY ("person_id") REFERENCES "public"."people"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "conversations" ADD CONSTRAINT "conversations_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shared_texts" ADD CONSTRAINT "shared_texts_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "message_pictures" ADD CONSTRAINT "message_pictures_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "message_pictures" ADD CONSTRAINT "message_pictures_message_id_messages_id_fk" FOREIGN KEY ("message_id") REFERENCES "public"."messages"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agency_reply_uses" ADD CONSTRAINT "agency_reply_uses_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agency_reply_uses" ADD CONSTRAINT "agency_reply_uses_reply_id_agency_saved_replies_id_fk" FOREIGN KEY ("reply_id") REFERENCES "public"."agency_saved_replies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "agency_saved_replies" ADD CONSTRAINT "agency_saved_replies_agency_id_agencies_id_fk" FOREIGN KEY ("agency_id") REFERENCES "public"."agencies"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "concern_owners_client" ON "concern_owners" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "conversations_person" ON "conversations" USING btree ("client_id","person_id");--> statement-breakpoint
CREATE INDEX "conversations_address" ON "conversations" USING btree ("client_id","address") WHERE person_id is null;--> statement-breakpoint
CREATE INDEX "conversations_waiting" ON "conversations" USING btree ("client_id","waiting_since") WHERE waiting_since is not null;--> statement-breakpoint
CREATE INDEX "conversations_last" ON "conversations" USING btree ("client_id","last_at","id");--> statement-breakpoint
CREATE INDEX "shared_texts_sender" ON "shared_texts" USING btree ("agency_id","number","sender","received_at");--> statement-breakpoint
CREATE UNIQUE INDEX "shared_texts_once" ON "shared_texts" USING btree ("agency_id","gateway_id");--> statement-breakpoint
CREATE INDEX "message_pictures_message" ON "message_pictures" USING btree ("message_id","position");--> statement-breakpoint
CREATE INDEX "message_pictures_client" ON "message_pictures" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "message_pictures_due" ON "message_pictures" USING btree ("fetch_at") WHERE fetch_at is not null;--> statement-breakpoint
CREATE INDEX "agency_saved_replies_agency" ON "agency_saved_replies" USING btree ("agency_id","purpose");--> statement-breakpoint
ALTER TABLE "messages" ADD CONSTRAINT "messages_conversation_id_conversations_id_fk" FOREIGN KEY ("conversation_id") REFERENCES "public"."conversations"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "clients_text_number" ON "clients" USING btree ("text_number");--> statement-breakpoint
CREATE INDEX "messages_conversation" ON "messages" USING btree ("conversation_id","created_at") WHERE conversation_id is not null;--> statement-breakpoint
-- Clients of one agency may share a number that texts come from; those of two agencies may not.
CREATE EXTENSION IF NOT EXISTS btree_gist;--> statement-breakpoint
ALTER TABLE "clients" ADD CONSTRAINT "clients_number_of_one_agency" EXCLUDE USING gist ("text_number" WITH =, "agency_id" WITH <>);
