import { message, type Message } from "@amigo/language/message";
import type { Rules } from "./rules/rule";

/** A named set of posting rules. What it does not name is as the house has it. */
export interface Preset {
  name: Message | string;
  /** What it is good for, in a few words. */
  what: Message | string;
  rules: Partial<Rules>;
}

/** The presets that Amigo brings; the house can make its own beside them. */
export const PRESETS: Readonly<Record<string, Preset>> = {
  "announcement-only": {
    name: message("posting.announcementOnly"),
    what: message("posting.leadsTellEverybodySomethingMembers"),
    rules: {
      writers: "leads and helpers",
      other: "returned",
      membersPosts: "everybody",
      from: "writer",
      replies: "leads",
      seen: "no",
      roster: "leads",
      archive: "members",
      findable: "leads",
    },
  },
  "questions-welcome": {
    name: message("posting.questionsWelcome"),
    what: message("posting.asAnnouncementOnlyAndWhat"),
    rules: {
      writers: "members",
      other: "held",
      membersPosts: "leads",
      from: "writer",
      replies: "leads",
      seen: "no",
      roster: "leads",
      archive: "members",
    },
  },
  discussion: {
    name: message("posting.discussion"),
    what: message("posting.membersWriteToEachOther"),
    rules: {
      writers: "members",
      other: "held",
      membersPosts: "everybody",
      from: "writer",
      replies: "list",
      seen: "yes",
      roster: "members",
      archive: "members",
      findable: "members",
    },
  },
  "inside-only": {
    name: message("posting.insideOnly"),
    what: message("posting.anyoneInsideYourDomainsWrites"),
    rules: {
      writers: "inside",
      other: "returned",
      membersPosts: "everybody",
      from: "writer",
      replies: "writer",
      roster: "staff",
      archive: "inside",
      findable: "inside",
      outside: "none",
    },
  },
};

/** Whether a preset is one that Amigo brings. */
export function isAmigos(id: string): boolean {
  return Object.hasOwn(PRESETS, id);
}

/** The preset of an id: one that Amigo brings, one of the house's own, else the strictest. */
export function presetOf(id: string, known: ReadonlyMap<string, Preset>): Preset {
  return (
    (isAmigos(id) ? PRESETS[id] : known.get(id)) ?? {
      name: message("posting.announcementOnly"),
      what: "",
      rules: PRESETS["announcement-only"]?.rules ?? {},
    }
  );
}
