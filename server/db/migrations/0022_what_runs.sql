ALTER TABLE "live_unit" ADD COLUMN "fw" text GENERATED ALWAYS AS (case when jsonb_typeof(state #> '{fields,fw,value}') = 'string' then state #>> '{fields,fw,value}' end) STORED;--> statement-breakpoint
ALTER TABLE "live_unit" ADD COLUMN "fw_at" double precision GENERATED ALWAYS AS ((state #>> '{fields,fw,at}')::double precision) STORED;--> statement-breakpoint
ALTER TABLE "unit_state" ADD COLUMN "firmware_name" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "unit_state" ADD COLUMN "installed" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "unit_state" ADD COLUMN "bridge" boolean DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX "unit_state_runs" ON "unit_state" USING btree ("firmware_name","number","unit_id","installed","bridge") WHERE "unit_state"."in_service" and "unit_state"."firmware_name" <> '';--> statement-breakpoint
-- What stands in the states so far: as core would work it out.
UPDATE "unit_state" s SET
  "firmware_name" = split_part(s."firmware", ' ', 1),
  "installed" = coalesce(
    (SELECT r."data" -> 'installed' ->> 'version' FROM "step_record" r WHERE r."unit_id" = s."unit_id" AND r."step" = 'watch' AND r."struck_at" IS NULL),
    split_part(split_part(s."firmware", ' ', 2), '/', 1)),
  "bridge" = coalesce(
    (SELECT jsonb_typeof(r."data" -> 'bridge') = 'object' FROM "step_record" r WHERE r."unit_id" = s."unit_id" AND r."step" = 'hub' AND r."struck_at" IS NULL),
    false);
