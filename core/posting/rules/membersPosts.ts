import { message } from "@amigo/language/message";
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
  words: message("posting.whoGetsMembersPosts"),
  form: "choice",
  usual: "everybody",
  values: [
    { value: "leads", words: message("posting.theLeadsAlone") },
    { value: "everybody", words: message("posting.everybodyOnTheList") },
  ],
  judge: (mail, rules) =>
    goesToLeads(mail, rules) ? { sentence: message("posting.postsByMembersGoTo") } : undefined,
};
