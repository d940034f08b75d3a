ALTER TYPE "public"."event_kind" ADD VALUE 'hold-signed';--> statement-breakpoint
ALTER TYPE "public"."event_kind" ADD VALUE 'hold-released';