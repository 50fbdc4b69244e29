import { message } from "@amigo/language/message";
import type { Rule } from "./rule";

/** How often a member gets mail who has chosen nothing. */
export const howOften: Rule = {
  id: "howOften",
  words: message("posting.howOftenByDefault"),
  form: "choice",
  usual: "every message",
  values: [
    { value: "nothing", words: message("posting.nothingByMail") },
    { value: "weekly", words: message("posting.aWeeklyDigest") },
    { value: "daily", words: message("posting.aDailyDigest") },
    { value: "every message", words: message("posting.everyMessage") },
  ],
};
