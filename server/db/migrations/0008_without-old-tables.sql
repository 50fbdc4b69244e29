DROP TABLE "recipe" CASCADE;--> statement-breakpoint
DROP TABLE "short_form" CASCADE;