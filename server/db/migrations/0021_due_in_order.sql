DROP INDEX "unit_state_due";--> statement-breakpoint
CREATE INDEX "unit_state_due" ON "unit_state" USING btree ("due","number") WHERE "unit_state"."due" is not null;