import access from "../en/core/access.json";
import address from "../en/core/address.json";
import audience from "../en/core/audience.json";
import calendar from "../en/core/calendar.json";
import facts from "../en/core/facts.json";
import forms from "../en/core/forms.json";
import input from "../en/core/input.json";
import intake from "../en/core/intake.json";
import jobs from "../en/core/jobs.json";
import journal from "../en/core/journal.json";
import lists from "../en/core/lists.json";
import mail from "../en/core/mail.json";
import naming from "../en/core/naming.json";
import posting from "../en/core/posting.json";
import push from "../en/core/push.json";
import retention from "../en/core/retention.json";
import schedule from "../en/core/schedule.json";
import shared from "../en/core/shared.json";
import sheet from "../en/core/sheet.json";
import step from "../en/core/step.json";
import identity from "../en/core/identity.json";

/** All texts that core says in English, by core's folders. */
export const coreTexts = {
  access,
  address,
  audience,
  calendar,
  facts,
  forms,
  input,
  intake,
  jobs,
  journal,
  lists,
  mail,
  naming,
  posting,
  push,
  retention,
  schedule,
  shared,
  sheet,
  step,
  identity,
} as const;
