import { addressesIn } from "./also";
import { runsTheList, type MailToJudge } from "../mailToJudge";
import type { Rule, Rules } from "./rule";

/** Whether a mail that may go out goes to the leads alone. */
export function goesToLeads({ sender }: Pick<MailToJudge, "sender">, rules: Rules): boolean {
  return (
    rules.membersPosts === "leads" &&
    !runsTheList(sender) &&
    !addressesIn(rules.also).includes(sender.address)
  );
}

/** Whom a post of a member reaches: everybody, or the leads alone, who answer. */
export const membersPosts: Rule = {
  id: "membersPosts",
  words: "who gets members' posts",
  form: "choice",
  usual: "everybody",
  values: [
    { value: "leads", words: "the leads alone" },
    { value: "everybody", words: "everybody on the list" },
  ],
  judge: (mail, rules) =>
    goesToLeads(mail, rules) ? { sentence: "Posts by members go to the leads alone." } : undefined,
};
