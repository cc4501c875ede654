CREATE EXTENSION IF NOT EXISTS unaccent;--> statement-breakpoint
CREATE EXTENSION IF NOT EXISTS btree_gin;--> statement-breakpoint
-- Without accents, in the plain dictionary: what a generated column and its index may go by.
CREATE FUNCTION estima_plain_words(p_text text) RETURNS text LANGUAGE sql IMMUTABLE PARALLEL SAFE STRICT AS $$
  SELECT lower(public.unaccent('public.unaccent'::regdictionary, p_text))
$$;--> statement-breakpoint
ALTER TABLE "reviews" ADD COLUMN "search" tsvector GENERATED ALWAYS AS (to_tsvector('simple', estima_plain_words("author" || ' ' || "words"))) STORED;--> statement-breakpoint
CREATE INDEX "reviews_search" ON "reviews" USING gin ("client_id", "search");
