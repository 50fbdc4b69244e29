import { counted } from "../../text/sentence";
import { runsTheList } from "../mailToJudge";
import type { Rule } from "./rule";

/** How many posts may go out on one day; more are held, or returned to those who run the list. */
export const perDay: Rule = {
  id: "perDay",
  words: "posts a day",
  form: "number",
  usual: "20",
  most: 200,
  unit: "posts a day",
  values: [],
  judge: ({ message, sender }, rules) => {
    if (message.postsToday < Number(rules.perDay)) return undefined;
    const said = `${counted(message.postsToday, "post")} went out today, and ${rules.perDay} ${rules.perDay === "1" ? "is" : "are"} the most`;
    return runsTheList(sender)
      ? {
          outcome: "returned",
          sentence: `${said}. Write again tomorrow, or let the rules of the list allow more.`,
        }
      : { outcome: "held", sentence: `${said}; a lead can let out more.` };
  },
};
