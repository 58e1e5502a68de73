DROP INDEX "unit_board";--> statement-breakpoint
CREATE INDEX "gate_unit" ON "gate" USING btree ("unit_id","gate","at");--> statement-breakpoint
CREATE INDEX "unit_ended" ON "unit" USING btree ("id") WHERE "unit"."ended" is not null;--> statement-breakpoint
CREATE INDEX "unit_board" ON "unit" USING btree ("board_id","number") WHERE "unit"."struck_at" is null;