import { message, type Message } from "@amigo/language/message";
import type { MailToJudge } from "../mailToJudge";
import { addressesIn } from "./also";
import type { Rule, Rules } from "./rule";

const MAY: Record<string, { who: Message; test: (mail: MailToJudge) => boolean }> = {
  leads: {
    who: message("posting.leadsAndCoordinators"),
    test: ({ sender }) => sender.isCoordinator || sender.listRole === "lead",
  },
  "leads and helpers": {
    who: message("posting.leadsHelpersAndCoordinators"),
    test: ({ sender }) => sender.isCoordinator || sender.listRole !== "none",
  },
  members: {
    who: message("posting.membersLeadsHelpersAndCoordinators"),
    test: ({ sender }) => sender.isCoordinator || sender.listRole !== "none" || sender.isMember,
  },
  inside: {
    who: message("posting.anyoneInsideYourDomainsAnd"),
    test: ({ sender }) =>
      sender.isCoordinator || sender.listRole !== "none" || sender.isMember || sender.isInside,
  },
};

/** Whether somebody may write, taken that they are who they say. */
export function mayWrite(mail: MailToJudge, rules: Rules): boolean {
  return (
    (MAY[rules.writers]?.test(mail) ?? false) ||
    addressesIn(rules.also).includes(mail.sender.address)
  );
}

/** Who may write. Whoever may not meets the next rule, "what happens to other mail". */
export const writers: Rule = {
  id: "writers",
  words: message("posting.whoMayWrite"),
  form: "choice",
  usual: "leads and helpers",
  values: [
    { value: "leads", words: message("posting.leads") },
    { value: "leads and helpers", words: message("posting.leadsAndHelpers") },
    { value: "members", words: message("posting.members") },
    { value: "inside", words: message("posting.anyoneInside2") },
  ],
  judge: (_mail, rules) => ({
    sentence: message("posting.mayWriteToThisList", {
      who: MAY[rules.writers]?.who ?? message("posting.nobody"),
    }),
  }),
};
