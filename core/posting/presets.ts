import type { Rules } from "./rules/rule";

/** A named set of posting rules. What it does not name is as the house has it. */
export interface Preset {
  name: string;
  /** What it is good for, in a few words. */
  what: string;
  rules: Partial<Rules>;
}

/** The presets that Amigo brings; the house can make its own beside them. */
export const PRESETS: Readonly<Record<string, Preset>> = {
  "announcement-only": {
    name: "Announcement-only",
    what: "Leads tell everybody something; members do not see each other.",
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
    name: "Questions welcome",
    what: "As announcement-only, and what members write reaches the leads, who answer.",
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
    name: "Discussion",
    what: "Members write to each other.",
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
    name: "Inside only",
    what: "Anyone inside your domains writes; nobody outside is on it.",
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
export function presetOf(id: string, own: ReadonlyMap<string, Preset>): Preset {
  return (
    (isAmigos(id) ? PRESETS[id] : own.get(id)) ?? {
      name: "Announcement-only",
      what: "",
      rules: PRESETS["announcement-only"]?.rules ?? {},
    }
  );
}
