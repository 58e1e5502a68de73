CREATE TABLE "tool_words" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"struck_at" timestamp with time zone,
	"unit_id" uuid NOT NULL,
	"step" text NOT NULL,
	"sha256" text NOT NULL,
	"tool" text DEFAULT '' NOT NULL,
	"system" text DEFAULT '' NOT NULL,
	"reading" jsonb NOT NULL,
	"taken" jsonb DEFAULT '[]'::jsonb NOT NULL,
	"by" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "tool_words" ADD CONSTRAINT "tool_words_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "tool_words" ADD CONSTRAINT "tool_words_sha256_blob_sha256_fk" FOREIGN KEY ("sha256") REFERENCES "public"."blob"("sha256") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "tool_words_unit" ON "tool_words" USING btree ("unit_id","at");