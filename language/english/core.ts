import forms from "../en/core/forms.json";
import intake from "../en/core/intake.json";
import mail from "../en/core/mail.json";
import shared from "../en/core/shared.json";

/** All texts that core says in English, by core's folders. */
export const coreTexts = {
  forms,
  intake,
  mail,
  shared,
} as const;
