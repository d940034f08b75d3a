ALTER TABLE "shop_factors" ADD COLUMN "context" jsonb;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD COLUMN "evidence" jsonb;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD COLUMN "archived_by" uuid;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD COLUMN "archived_why" text;--> statement-breakpoint
ALTER TABLE "shop_factors" ADD CONSTRAINT "shop_factors_archived_by_people_id_fk" FOREIGN KEY ("archived_by") REFERENCES "public"."people"("id") ON DELETE no action ON UPDATE no action;