DROP INDEX "messages_due";--> statement-breakpoint
CREATE INDEX "messages_due" ON "messages" USING btree ("client_id","goes_first","due_at","person_id") WHERE state in ('planned', 'sending');