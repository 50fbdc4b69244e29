import { message } from "@amigo/language/message";
import { runsTheList } from "../mailToJudge";
import type { Rule } from "./rule";

/** How many posts may go out on one day; more are held, or returned to those who run the list. */
export const perDay: Rule = {
  id: "perDay",
  words: message("posting.postsADay"),
  form: "number",
  usual: "20",
  most: 200,
  unit: message("posting.postsADay"),
  values: [],
  judge: ({ message: content, sender }, rules) => {
    if (content.postsToday < Number(rules.perDay)) return undefined;
    const values = { today: content.postsToday, most: Number(rules.perDay) };
    return runsTheList(sender)
      ? { outcome: "returned", sentence: message("posting.enoughForToday", values) }
      : { outcome: "held", sentence: message("posting.enoughUnlessALead", values) };
  },
};
