ALTER TABLE "file" ADD COLUMN "source_id" uuid;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "origin" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "firmware" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "file" ADD COLUMN "release" text DEFAULT '' NOT NULL;