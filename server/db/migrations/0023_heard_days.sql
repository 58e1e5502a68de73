CREATE TABLE "live_day" (
	"unit_id" uuid NOT NULL,
	"day" date NOT NULL,
	"hours" integer NOT NULL,
	CONSTRAINT "live_day_unit_id_day_pk" PRIMARY KEY("unit_id","day")
);
--> statement-breakpoint
ALTER TABLE "live_day" ADD CONSTRAINT "live_day_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
-- Hours that were heard so far.
INSERT INTO "live_day" ("unit_id", "day", "hours") SELECT "unit_id", ("hour" AT TIME ZONE 'UTC')::date, count(*) FROM "live_hour" GROUP BY 1, 2;
