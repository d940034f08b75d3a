ALTER TYPE "public"."event_kind" ADD VALUE 'replanned';--> statement-breakpoint
ALTER TABLE "plan_revisions" DROP CONSTRAINT "plan_revision_number";--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD COLUMN "variant" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD COLUMN "piece_id" uuid;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revisions_piece_id_pieces_id_fk" FOREIGN KEY ("piece_id") REFERENCES "public"."pieces"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_revision_number" UNIQUE("job_id","revision","variant");--> statement-breakpoint
ALTER TABLE "plan_revisions" ADD CONSTRAINT "plan_variant" CHECK (("plan_revisions"."variant" = 0) = ("plan_revisions"."piece_id" is null));