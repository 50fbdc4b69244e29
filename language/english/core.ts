import forms from "../en/core/forms.json";
import intake from "../en/core/intake.json";
import lists from "../en/core/lists.json";
import mail from "../en/core/mail.json";
import posting from "../en/core/posting.json";
import shared from "../en/core/shared.json";
import step from "../en/core/step.json";

/** All texts that core says in English, by core's folders. */
export const coreTexts = {
  forms,
  intake,
  lists,
  mail,
  posting,
  shared,
  step,
} as const;
