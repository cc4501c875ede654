CREATE TABLE "desk_tries" (
	"client_id" uuid NOT NULL,
	"phone_id" uuid NOT NULL,
	"user_id" text NOT NULL,
	"wrong" integer NOT NULL,
	"locked_at" timestamp with time zone,
	CONSTRAINT "desk_tries_phone_id_user_id_pk" PRIMARY KEY("phone_id","user_id")
);
--> statement-breakpoint
ALTER TABLE "desk_tries" ADD CONSTRAINT "desk_tries_client_id_clients_id_fk" FOREIGN KEY ("client_id") REFERENCES "public"."clients"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_tries" ADD CONSTRAINT "desk_tries_phone_id_shared_phones_id_fk" FOREIGN KEY ("phone_id") REFERENCES "public"."shared_phones"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "desk_tries" ADD CONSTRAINT "desk_tries_user_id_users_id_fk" FOREIGN KEY ("user_id") REFERENCES "public"."users"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "desk_tries_client" ON "desk_tries" USING btree ("client_id");--> statement-breakpoint
CREATE INDEX "desk_tries_user" ON "desk_tries" USING btree ("user_id");--> statement-breakpoint
-- Asking several at once, and changing what is planned, was a part of "ask" and is a permission of its own now.
UPDATE "roles" SET "permissions" = array_append("permissions", 'ask many') WHERE 'ask' = ANY("permissions") AND NOT 'ask many' = ANY("permissions");
