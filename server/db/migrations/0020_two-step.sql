CREATE TABLE "authenticator" (
	"account_id" uuid PRIMARY KEY NOT NULL,
	"sealed" text NOT NULL,
	"confirmed_at" timestamp with time zone,
	"last_step" bigint DEFAULT 0 NOT NULL
);
--> statement-breakpoint
CREATE TABLE "passkey" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"account_id" uuid NOT NULL,
	"credential_id" text NOT NULL,
	"public_key" text NOT NULL,
	"counter" bigint DEFAULT 0 NOT NULL,
	"transports" text[] DEFAULT '{}' NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	"last_used_at" timestamp with time zone,
	CONSTRAINT "passkey_credential_id_unique" UNIQUE("credential_id")
);
--> statement-breakpoint
CREATE TABLE "recovery_code" (
	"code_hash" text PRIMARY KEY NOT NULL,
	"account_id" uuid NOT NULL,
	"used_at" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "sign_in_step" (
	"token_hash" text PRIMARY KEY NOT NULL,
	"account_id" uuid,
	"purpose" text NOT NULL,
	"challenge" text DEFAULT '' NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	CONSTRAINT "sign_in_step_purpose" CHECK ("sign_in_step"."purpose" in ('sign-in', 'new passkey'))
);
--> statement-breakpoint
ALTER TABLE "api_token" ADD COLUMN "for_mail_program" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "house" ADD COLUMN "two_step" text DEFAULT 'nobody' NOT NULL;--> statement-breakpoint
ALTER TABLE "authenticator" ADD CONSTRAINT "authenticator_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "passkey" ADD CONSTRAINT "passkey_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "recovery_code" ADD CONSTRAINT "recovery_code_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "sign_in_step" ADD CONSTRAINT "sign_in_step_account_id_account_id_fk" FOREIGN KEY ("account_id") REFERENCES "public"."account"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "passkey_account" ON "passkey" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "recovery_code_account" ON "recovery_code" USING btree ("account_id");--> statement-breakpoint
CREATE INDEX "sign_in_step_account" ON "sign_in_step" USING btree ("account_id");--> statement-breakpoint
ALTER TABLE "house" ADD CONSTRAINT "house_two_step" CHECK ("house"."two_step" in ('nobody', 'coordinators', 'everybody'));