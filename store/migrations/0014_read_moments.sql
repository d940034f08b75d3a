ALTER TYPE "public"."moment" ADD VALUE 'as-received' BEFORE 'as-tacked';--> statement-breakpoint
ALTER TYPE "public"."moment" ADD VALUE 'after-run' BEFORE 'cold';--> statement-breakpoint
ALTER TYPE "public"."moment" ADD VALUE 'corrected';