-- When people were last here, and where: for those who came before this was noted, and where a visit was moved or cancelled since.
UPDATE "people" p SET "last_visit_at" = v."ends_at", "last_branch_id" = coalesce(v."branch_id", p."last_branch_id")
FROM (SELECT w."id", l."ends_at", l."branch_id" FROM "people" w LEFT JOIN (
    SELECT DISTINCT ON ("person_id") "person_id", "ends_at", "branch_id" FROM "visits" WHERE "outcome" <> 'cancelled'
    ORDER BY "person_id", "ends_at" DESC, "id" DESC) l ON l."person_id" = w."id" WHERE w."erased_at" IS NULL) v
WHERE v."id" = p."id" AND (p."last_visit_at" IS DISTINCT FROM v."ends_at" OR (v."branch_id" IS NOT NULL AND p."last_branch_id" IS DISTINCT FROM v."branch_id"));
--> statement-breakpoint
-- Conversations and their messages are of the branch where their person was last, as those that begin now.
UPDATE "conversations" c SET "branch_id" = p."last_branch_id" FROM "people" p WHERE p."id" = c."person_id" AND c."branch_id" IS NULL AND p."last_branch_id" IS NOT NULL;
--> statement-breakpoint
UPDATE "messages" m SET "branch_id" = c."branch_id" FROM "conversations" c WHERE c."id" = m."conversation_id" AND m."branch_id" IS NULL AND c."branch_id" IS NOT NULL;
