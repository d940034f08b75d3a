ALTER TYPE "public"."event_kind" ADD VALUE 'undone';--> statement-breakpoint
ALTER TYPE "public"."event_kind" ADD VALUE 'step-skipped';--> statement-breakpoint
ALTER TYPE "public"."event_kind" ADD VALUE 'step-taken';--> statement-breakpoint
ALTER TYPE "public"."event_kind" ADD VALUE 'laid';--> statement-breakpoint
ALTER TYPE "public"."event_kind" ADD VALUE 'happened';--> statement-breakpoint
ALTER TABLE "bench_events" ADD COLUMN "data" jsonb;