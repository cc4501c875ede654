CREATE TABLE "shared_phones" (
	"id" uuid PRIMARY KEY NOT NULL,
	"client_id" uuid NOT NULL,
	"name" text NOT NULL,
	"branch_id" uuid,
	"user_id" text NOT NULL,
	"until" timestamp with time zone NOT NULL,
	"by" text NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"link_hash" text,
	"link_expires_at" timestamp with time zone,
	"opened_at" timestamp with time zone,
	CONSTRAINT "shared_phones_link_hash_unique" UNIQUE("link_hash")
);
--> statement-breakpoint
ALTER TABLE "users" ADD COLUMN "desk_code" text;--> statement-breakpoint
ALTER TABLE "shared_phones" ADD CONSTRAINT "shared_phones_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shared_phones" ADD CONSTRAINT "shared_phones_branch_id_branches_id_fk" FOREIGN KEY ("branch_id") REFERENCES "public"."branches"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "shared_phones" ADD CONSTRAINT "shared_phones_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "shared_phones_client" ON "shared_phones" USING btree ("client_id","created_at");--> statement-breakpoint
CREATE INDEX "shared_phones_user" ON "shared_phones" USING btree ("user_id");