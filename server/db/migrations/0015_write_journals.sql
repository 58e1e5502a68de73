CREATE TABLE "write_journal" (
	"unit_id" uuid PRIMARY KEY NOT NULL,
	"journal" jsonb NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "write_journal" ADD CONSTRAINT "write_journal_unit_id_unit_id_fk" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;