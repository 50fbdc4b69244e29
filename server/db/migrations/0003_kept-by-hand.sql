INSERT INTO "fact" ("season_id", "subject", "kind", "ref", "value", "origin", "valid_from")
SELECT "list"."season_id", "kept_off"."list_id"::text, 'kept', "kept_off"."address",
  jsonb_build_object('side', 'off', 'reason', "kept_off"."reason", 'by', "kept_off"."by", 'lastDay', ''),
  jsonb_build_object('from', 'hand', 'by', "kept_off"."by", 'at', "kept_off"."at"), "kept_off"."at"
FROM "kept_off" JOIN "list" ON "list"."id" = "kept_off"."list_id";--> statement-breakpoint
DROP TABLE "kept_off" CASCADE;