CREATE TABLE "register_items" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"kind" text NOT NULL,
	"name" text NOT NULL,
	"item" jsonb NOT NULL,
	"updated_by" uuid NOT NULL,
	"updated_at" timestamp with time zone DEFAULT now() NOT NULL,
	"archived_at" timestamp with time zone,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "register_item_once" UNIQUE("kind","name")
);
--> statement-breakpoint
ALTER TABLE "measurements" ADD COLUMN "instrument_due_on" date;--> statement-breakpoint
ALTER TABLE "register_items" ADD CONSTRAINT "register_items_updated_by_people_id_fk" FOREIGN KEY ("updated_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;