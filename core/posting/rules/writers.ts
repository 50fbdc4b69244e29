import type { MailToJudge } from "../mailToJudge";
import { addressesIn } from "./also";
import type { Rule, Rules } from "./rule";

const MAY: Record<string, { who: string; test: (mail: MailToJudge) => boolean }> = {
  leads: {
    who: "Leads and coordinators",
    test: ({ sender }) => sender.isCoordinator || sender.listRole === "lead",
  },
  "leads and helpers": {
    who: "Leads, helpers and coordinators",
    test: ({ sender }) => sender.isCoordinator || sender.listRole !== "none",
  },
  members: {
    who: "Members, leads, helpers and coordinators",
    test: ({ sender }) => sender.isCoordinator || sender.listRole !== "none" || sender.isMember,
  },
  inside: {
    who: "Anyone inside your domains, and whoever is on the list,",
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
  words: "who may write",
  form: "choice",
  usual: "leads and helpers",
  values: [
    { value: "leads", words: "Leads" },
    { value: "leads and helpers", words: "Leads and helpers" },
    { value: "members", words: "Members" },
    { value: "inside", words: "Anyone inside" },
  ],
  judge: (_mail, rules) => ({
    sentence: `${MAY[rules.writers]?.who ?? "Nobody"} may write to this list.`,
  }),
};
