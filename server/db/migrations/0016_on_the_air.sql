CREATE TABLE "live_happening" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"unit_id" uuid NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"data" jsonb NOT NULL
);
--> statement-breakpoint
CREATE TABLE "live_hour" (
	"unit_id" uuid NOT NULL,
	"hour" timestamp with time zone NOT NULL,
	"messages" integer NOT NULL,
	"readings" integer NOT NULL,
	"sum_w" double precision NOT NULL,
	"most_w" double precision NOT NULL,
	"first_kwh" double precision,
	"last_kwh" double precision,
	CONSTRAINT "live_hour_unit_id_hour_pk" PRIMARY KEY("unit_id","hour")
);
--> statement-breakpoint
CREATE TABLE "live_link" (
	"id" integer PRIMARY KEY NOT NULL,
	"state" text NOT NULL,
	"broker" text NOT NULL,
	"message" text NOT NULL,
	"since" timestamp with time zone NOT NULL,
	"beat_at" timestamp with time zone NOT NULL,
	"counts" jsonb NOT NULL,
	"refused" jsonb,
	"dropped" jsonb NOT NULL,
	"batch" bigint NOT NULL
);
--> statement-breakpoint
CREATE TABLE "live_sender" (
	"prefix" text PRIMARY KEY NOT NULL,
	"first_at" timestamp with time zone NOT NULL,
	"last_at" timestamp with time zone NOT NULL,
	"messages" bigint NOT NULL,
	"sample" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "live_unit" (
	"unit_id" uuid PRIMARY KEY NOT NULL,
	"presence" text NOT NULL,
	"flapping" boolean NOT NULL,
	"stale_at" timestamp with time zone,
	"usual_s" double precision,
	"state" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
CREATE TABLE "live_wish" (
	"id" uuid PRIMARY KEY NOT NULL,
	"unit_id" uuid NOT NULL,
	"channel" text NOT NULL,
	"value" boolean NOT NULL,
	"by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"state" text DEFAULT 'waiting' NOT NULL,
	"sent_at" timestamp with time zone,
	"answered_at" timestamp with time zone,
	"note" text DEFAULT '' NOT NULL
);
--> statement-breakpoint
ALTER TABLE "live_happening" ADD CONSTRAINT "live_happening_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "live_hour" ADD CONSTRAINT "live_hour_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "live_unit" ADD CONSTRAINT "live_unit_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "live_wish" ADD CONSTRAINT "live_wish_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "live_happening_unit" ON "live_happening" USING btree ("unit_id","at");--> statement-breakpoint
CREATE INDEX "live_happening_at" ON "live_happening" USING btree ("at");--> statement-breakpoint
CREATE INDEX "live_wish_unit" ON "live_wish" USING btree ("unit_id","made_at");--> statement-breakpoint
CREATE INDEX "live_wish_state" ON "live_wish" USING btree ("state");