ALTER TABLE "answers" ADD COLUMN "ratings" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "draft_more" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "reply_to" text;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "read_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "answers" ADD COLUMN "read_by" text;--> statement-breakpoint
UPDATE "answers" a SET "ratings" = coalesce(
  (SELECT jsonb_agg(jsonb_build_object('rating', e.rating, 'at', (date_part('epoch', e.at) * 1000)::bigint) ORDER BY e.at)
    FROM ask_events e
    WHERE e.client_id = a.client_id AND e.ask_id = a.ask_id AND e.kind = 'answered' AND e.rating IS NOT NULL),
  jsonb_build_array(jsonb_build_object('rating', a.rating, 'at', (date_part('epoch', a.given_at) * 1000)::bigint)))
WHERE a.rating IS NOT NULL;--> statement-breakpoint
UPDATE "answers" SET "words_at" = "given_at" WHERE "words_at" IS NULL AND "more" <> '{}'::jsonb;--> statement-breakpoint
CREATE INDEX "answers_written" ON "answers" USING btree ("client_id","words_at") WHERE words_at is not null and not is_doubtful and (may_show_at is null or words is null or rating is null);
--> statement-breakpoint
UPDATE "messages" SET "goes_first" = true WHERE "ask_id" IS NULL AND "direction" = 'out' AND NOT "goes_first";
