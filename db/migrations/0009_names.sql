ALTER TABLE "deliveries" RENAME TO "inbound_events";--> statement-breakpoint
ALTER INDEX "deliveries_event" RENAME TO "inbound_events_event";--> statement-breakpoint
ALTER INDEX "deliveries_feed" RENAME TO "inbound_events_feed";--> statement-breakpoint
ALTER INDEX "deliveries_failed" RENAME TO "inbound_events_failed";--> statement-breakpoint
ALTER INDEX "deliveries_due" RENAME TO "inbound_events_due";--> statement-breakpoint
ALTER TABLE "inbound_events" RENAME CONSTRAINT "deliveries_client_id_clients_id_fk" TO "inbound_events_client_id_clients_id_fk";--> statement-breakpoint
ALTER TABLE "inbound_events" RENAME CONSTRAINT "deliveries_feed_id_feeds_id_fk" TO "inbound_events_feed_id_feeds_id_fk";--> statement-breakpoint
ALTER TABLE "inbound_events" RENAME CONSTRAINT "deliveries_pkey" TO "inbound_events_pkey";--> statement-breakpoint
ALTER TABLE "occasions" RENAME TO "triggers";--> statement-breakpoint
ALTER INDEX "occasions_once" RENAME TO "triggers_once";--> statement-breakpoint
ALTER INDEX "occasions_due" RENAME TO "triggers_due";--> statement-breakpoint
ALTER INDEX "occasions_person" RENAME TO "triggers_person";--> statement-breakpoint
ALTER TABLE "triggers" RENAME CONSTRAINT "occasions_client_id_clients_id_fk" TO "triggers_client_id_clients_id_fk";--> statement-breakpoint
ALTER TABLE "triggers" RENAME CONSTRAINT "occasions_plan_id_plans_id_fk" TO "triggers_plan_id_plans_id_fk";--> statement-breakpoint
ALTER TABLE "triggers" RENAME CONSTRAINT "occasions_person_id_people_id_fk" TO "triggers_person_id_people_id_fk";--> statement-breakpoint
ALTER TABLE "triggers" RENAME CONSTRAINT "occasions_pkey" TO "triggers_pkey";--> statement-breakpoint
ALTER TABLE "set_apart" RENAME TO "dismissed_matches";--> statement-breakpoint
ALTER TABLE "dismissed_matches" RENAME CONSTRAINT "set_apart_client_id_clients_id_fk" TO "dismissed_matches_client_id_clients_id_fk";--> statement-breakpoint
ALTER TABLE "dismissed_matches" RENAME CONSTRAINT "set_apart_client_id_kind_key_pk" TO "dismissed_matches_client_id_kind_key_pk";--> statement-breakpoint
ALTER TABLE "audit_entries" RENAME COLUMN "deed" TO "action";--> statement-breakpoint
ALTER TABLE "asks" RENAME COLUMN "hurry" TO "send_now";--> statement-breakpoint
ALTER TABLE "listings" RENAME COLUMN "trouble" TO "problem";--> statement-breakpoint
ALTER TABLE "plans" RENAME COLUMN "look_at" TO "next_run_at";--> statement-breakpoint
ALTER TABLE "senders" RENAME COLUMN "left" TO "recent_sends";--> statement-breakpoint
ALTER INDEX "plans_look" RENAME TO "plans_next_run";--> statement-breakpoint
UPDATE "merges" SET "moved" = ("moved" - 'deliveries' - 'occasions') || jsonb_strip_nulls(jsonb_build_object('inbound_events', "moved" -> 'deliveries', 'triggers', "moved" -> 'occasions')) WHERE "moved" ? 'deliveries' OR "moved" ? 'occasions';
