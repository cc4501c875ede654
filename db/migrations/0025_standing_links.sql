CREATE TABLE "standing_links" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"branch_id" uuid NOT NULL,
	"team_member_id" uuid,
	"name" text NOT NULL,
	"token" text NOT NULL,
	"opened" integer DEFAULT 0 NOT NULL,
	"answered" integer DEFAULT 0 NOT NULL,
	"went_to_sites" integer DEFAULT 0 NOT NULL,
	"by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"ended_at" timestamp with time zone,
	CONSTRAINT "standing_links_token_unique" UNIQUE("token")
);
--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "standing_link_id" uuid;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "is_doubtful" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "standing_links" ADD CONSTRAINT "standing_links_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_links" ADD CONSTRAINT "standing_links_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "standing_links" ADD CONSTRAINT "standing_links_team_member_id_team_members_id_fk" FOREIGN KEY ("team_member_id") REFERENCES "public"."team_members"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "standing_links_client" ON "standing_links" USING btree ("client_id","ended_at","created_at");--> statement-breakpoint
ALTER TABLE "answers" ADD CONSTRAINT "answers_standing_link_id_standing_links_id_fk" FOREIGN KEY ("standing_link_id") REFERENCES "public"."standing_links"("id") ON DELETE set null ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "answers_standing_link" ON "answers" USING btree ("standing_link_id") WHERE standing_link_id is not null;