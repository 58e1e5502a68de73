CREATE EXTENSION IF NOT EXISTS pg_trgm;
--> statement-breakpoint
CREATE TABLE "event_row" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"event_id" bigint NOT NULL,
	"table" text NOT NULL,
	"row_id" uuid NOT NULL,
	"made" boolean NOT NULL,
	"patch" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "ripple" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"kind" text NOT NULL,
	"ref" text NOT NULL,
	"reached" bigint DEFAULT 0 NOT NULL,
	"since" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "name_clash" (
	"a" uuid NOT NULL,
	"b" uuid NOT NULL,
	"code" text NOT NULL,
	CONSTRAINT "name_clash_a_b_code_pk" PRIMARY KEY("a","b","code")
);
--> statement-breakpoint
CREATE TABLE "aside_record" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"unit_id" uuid NOT NULL,
	"step" text NOT NULL,
	"shape" integer NOT NULL,
	"data" jsonb NOT NULL,
	"why" text NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_series" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"struck_at" timestamp with time zone,
	"unit_id" uuid NOT NULL,
	"step" text NOT NULL,
	"series" text NOT NULL,
	"key" text NOT NULL,
	"position" integer NOT NULL,
	"data" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "step_text" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"struck_at" timestamp with time zone,
	"unit_id" uuid NOT NULL,
	"step" text NOT NULL,
	"field" text NOT NULL,
	"sha256" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "unit_pace" (
	"unit_id" uuid PRIMARY KEY NOT NULL,
	"board_id" uuid,
	"begun_at" timestamp with time zone NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	"minutes" double precision NOT NULL,
	"proven" boolean DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE TABLE "unit_state" (
	"unit_id" uuid PRIMARY KEY NOT NULL,
	"number" integer NOT NULL,
	"board_id" uuid,
	"next" text NOT NULL,
	"lane" text NOT NULL,
	"in_service" boolean NOT NULL,
	"coats" jsonb NOT NULL,
	"waiting" jsonb NOT NULL,
	"wait_rank" integer,
	"troubles" integer NOT NULL,
	"due" date,
	"due_what" text NOT NULL,
	"holds_until" date,
	"address" text NOT NULL,
	"mac" text NOT NULL,
	"ap_mac" text NOT NULL,
	"name_suffix" text NOT NULL,
	"topic" text NOT NULL,
	"firmware" text NOT NULL,
	"firmware_chosen" text NOT NULL,
	"family" text,
	"established" text,
	"printed" text NOT NULL,
	"printed_key" text NOT NULL,
	"backup" text NOT NULL,
	"image_id" uuid,
	"adapter_id" uuid,
	"metering" boolean NOT NULL,
	"calibration" jsonb,
	"open_minutes" real,
	"has_marks" boolean NOT NULL,
	"search" text NOT NULL
);
--> statement-breakpoint
DROP INDEX "board_fact_board";--> statement-breakpoint
DROP INDEX "event_at";--> statement-breakpoint
DROP INDEX "gate_unit";--> statement-breakpoint
DROP INDEX "attempt_unit";--> statement-breakpoint
DROP INDEX "board_name";--> statement-breakpoint
DROP INDEX "calibration_unit";--> statement-breakpoint
DROP INDEX "event_unit";--> statement-breakpoint
DROP INDEX "file_unit";--> statement-breakpoint
DROP INDEX "hub_test_unit";--> statement-breakpoint
DROP INDEX "marking_key";--> statement-breakpoint
DROP INDEX "step_record_one";--> statement-breakpoint
DROP INDEX "trouble_unit";--> statement-breakpoint
DROP INDEX "unit_number";--> statement-breakpoint
ALTER TABLE "event" ALTER COLUMN "changes" DROP DEFAULT;--> statement-breakpoint
ALTER TABLE "event" ALTER COLUMN "changes" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "setting" DROP CONSTRAINT "setting_pkey";--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "attempt" ADD COLUMN "board_id" uuid;--> statement-breakpoint
ALTER TABLE "board" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "board_fact" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "calibration" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "event" ADD COLUMN "until" timestamp with time zone DEFAULT now() NOT NULL;--> statement-breakpoint
ALTER TABLE "event" ADD COLUMN "undoable" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "gate" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "hub" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "hub_test" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "kit" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "marking" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "profile" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "secret" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "setting" ADD COLUMN "id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL;--> statement-breakpoint
ALTER TABLE "setting" ADD COLUMN "version" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "setting" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "step_record" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "step_record" ADD COLUMN "shape" integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE "trouble" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "trouble" ADD COLUMN "board_id" uuid;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "struck_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "slug" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "own_slug" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "pinned" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "unit" ADD COLUMN "spoken" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "event_row" ADD CONSTRAINT "event_row_event_id_event_id_fk" FOREIGN KEY ("event_id") REFERENCES "public"."event"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "aside_record" ADD CONSTRAINT "aside_record_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_series" ADD CONSTRAINT "step_series_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_text" ADD CONSTRAINT "step_text_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_text" ADD CONSTRAINT "step_text_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_pace" ADD CONSTRAINT "unit_pace_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_state" ADD CONSTRAINT "unit_state_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
UPDATE "gate" g SET "cleared_at" = now() WHERE g."cleared_at" IS NULL AND EXISTS (SELECT 1 FROM "gate" n WHERE n."unit_id" = g."unit_id" AND n."cleared_at" IS NULL AND (n."at", n."id") > (g."at", g."id") AND (n."gate" = g."gate" OR (n."gate" IN ('mains-off', 'case-closed') AND g."gate" IN ('mains-off', 'case-closed'))));--> statement-breakpoint
UPDATE "unit" u SET "in_hand" = false WHERE u."in_hand" AND EXISTS (SELECT 1 FROM "unit" n WHERE n."in_hand" AND n."id" > u."id");--> statement-breakpoint
UPDATE "attempt" a SET "board_id" = u."board_id" FROM "unit" u WHERE u."id" = a."unit_id";--> statement-breakpoint
UPDATE "trouble" t SET "board_id" = u."board_id" FROM "unit" u WHERE u."id" = t."unit_id";--> statement-breakpoint
UPDATE "event" SET "until" = "at", "undoable" = jsonb_array_length("changes") > 0;--> statement-breakpoint
UPDATE "event" SET "changes" = NULL WHERE jsonb_array_length("changes") = 0;--> statement-breakpoint
CREATE INDEX "event_row_event" ON "event_row" USING btree ("event_id");--> statement-breakpoint
CREATE INDEX "event_row_row" ON "event_row" USING btree ("row_id","event_id");--> statement-breakpoint
CREATE INDEX "name_clash_b" ON "name_clash" USING btree ("b");--> statement-breakpoint
CREATE INDEX "aside_record_unit" ON "aside_record" USING btree ("unit_id");--> statement-breakpoint
CREATE UNIQUE INDEX "step_series_one" ON "step_series" USING btree ("unit_id","step","series","key") WHERE "step_series"."struck_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "step_text_one" ON "step_text" USING btree ("unit_id","step","field") WHERE "step_text"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "unit_pace_board" ON "unit_pace" USING btree ("board_id","begun_at");--> statement-breakpoint
CREATE INDEX "unit_state_number" ON "unit_state" USING btree ("number");--> statement-breakpoint
CREATE INDEX "unit_state_lane" ON "unit_state" USING btree ("lane","in_service","number");--> statement-breakpoint
CREATE INDEX "unit_state_waiting" ON "unit_state" USING btree ("wait_rank","number") WHERE "unit_state"."wait_rank" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_due" ON "unit_state" USING btree ("due") WHERE "unit_state"."due" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_holds" ON "unit_state" USING btree ("holds_until") WHERE "unit_state"."holds_until" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_board" ON "unit_state" USING btree ("board_id","established");--> statement-breakpoint
CREATE INDEX "unit_state_printed" ON "unit_state" USING btree ("printed_key") WHERE "unit_state"."printed_key" <> '';--> statement-breakpoint
CREATE INDEX "unit_state_image" ON "unit_state" USING btree ("image_id") WHERE "unit_state"."image_id" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_adapter" ON "unit_state" USING btree ("adapter_id") WHERE "unit_state"."adapter_id" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_firmware" ON "unit_state" USING btree ("firmware_chosen");--> statement-breakpoint
CREATE INDEX "unit_state_address" ON "unit_state" USING btree ("number") WHERE "unit_state"."address" <> '';--> statement-breakpoint
CREATE INDEX "unit_state_metering" ON "unit_state" USING btree ("number") WHERE "unit_state"."metering";--> statement-breakpoint
CREATE INDEX "unit_state_backup" ON "unit_state" USING btree ("number") WHERE "unit_state"."backup" not in ('none', 'skipped');--> statement-breakpoint
CREATE INDEX "unit_state_minutes" ON "unit_state" USING btree ("board_id","number") WHERE "unit_state"."open_minutes" is not null;--> statement-breakpoint
CREATE INDEX "unit_state_marks" ON "unit_state" USING btree ("board_id","number") WHERE "unit_state"."has_marks";--> statement-breakpoint
CREATE INDEX "unit_state_search" ON "unit_state" USING gin ("search" gin_trgm_ops);--> statement-breakpoint
CREATE INDEX "attempt_board" ON "attempt" USING btree ("board_id","at");--> statement-breakpoint
CREATE INDEX "attempt_written" ON "attempt" USING btree (("data" ->> 'sha256'));--> statement-breakpoint
CREATE INDEX "board_fact_newest" ON "board_fact" USING btree ("board_id","key","at") WHERE "board_fact"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "event_board" ON "event" USING btree ("board_id","id");--> statement-breakpoint
CREATE INDEX "event_undo" ON "event" USING btree ("until","id") WHERE "event"."undoable" and "event"."undone_at" is null;--> statement-breakpoint
CREATE INDEX "event_undo_unit" ON "event" USING btree ("unit_id","id") WHERE "event"."undoable" and "event"."undone_at" is null;--> statement-breakpoint
CREATE INDEX "event_old" ON "event" USING btree ("id") WHERE "event"."changes" is not null;--> statement-breakpoint
CREATE INDEX "file_sha256" ON "file" USING btree ("sha256","kind");--> statement-breakpoint
CREATE INDEX "file_kind" ON "file" USING btree ("kind","created_at") WHERE "file"."aside_at" is null and "file"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "file_board" ON "file" USING btree ("board_id","kind");--> statement-breakpoint
CREATE INDEX "file_name" ON "file" USING gin (lower("name") gin_trgm_ops);--> statement-breakpoint
CREATE UNIQUE INDEX "gate_open" ON "gate" USING btree ("unit_id","gate") WHERE "gate"."cleared_at" is null and "gate"."struck_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "gate_one_state" ON "gate" USING btree ("unit_id") WHERE "gate"."gate" in ('mains-off', 'case-closed') and "gate"."cleared_at" is null and "gate"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "practice_at" ON "practice" USING btree ("at");--> statement-breakpoint
CREATE INDEX "secret_unit" ON "secret" USING btree ("unit_id");--> statement-breakpoint
CREATE UNIQUE INDEX "setting_key" ON "setting" USING btree ("key") WHERE "setting"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "trouble_board" ON "trouble" USING btree ("board_id","cause") WHERE "trouble"."cause" is not null;--> statement-breakpoint
CREATE UNIQUE INDEX "unit_slug" ON "unit" USING btree ("slug") WHERE "unit"."struck_at" is null and "unit"."slug" <> '';--> statement-breakpoint
CREATE UNIQUE INDEX "unit_in_hand" ON "unit" USING btree ("in_hand") WHERE "unit"."in_hand" and "unit"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "unit_own_slug" ON "unit" USING btree ("own_slug") WHERE "unit"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "unit_board" ON "unit" USING btree ("board_id","number");--> statement-breakpoint
CREATE INDEX "unit_place" ON "unit" USING btree ("place","number");--> statement-breakpoint
CREATE INDEX "attempt_unit" ON "attempt" USING btree ("unit_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "board_name" ON "board" USING btree ("maker","product","revision") WHERE "board"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "calibration_unit" ON "calibration" USING btree ("unit_id","at");--> statement-breakpoint
CREATE INDEX "event_unit" ON "event" USING btree ("unit_id","id");--> statement-breakpoint
CREATE INDEX "file_unit" ON "file" USING btree ("unit_id","kind");--> statement-breakpoint
CREATE INDEX "hub_test_unit" ON "hub_test" USING btree ("unit_id","at");--> statement-breakpoint
CREATE UNIQUE INDEX "marking_key" ON "marking" USING btree ("key") WHERE "marking"."struck_at" is null;--> statement-breakpoint
CREATE UNIQUE INDEX "step_record_one" ON "step_record" USING btree ("unit_id","step") WHERE "step_record"."struck_at" is null;--> statement-breakpoint
CREATE INDEX "trouble_unit" ON "trouble" USING btree ("unit_id","opened_at");--> statement-breakpoint
CREATE UNIQUE INDEX "unit_number" ON "unit" USING btree ("number") WHERE "unit"."struck_at" is null;