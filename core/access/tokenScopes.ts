import { message, type Message } from "@amigo/language/message";
import type { Action } from "./may";

/** What an API token may be given, each with the actions that it allows and the words for it. */
export const TOKEN_SCOPES = {
  "read lists": {
    words: message("access.readListsAndTheirMembers"),
    actions: ["see the board", "see lists", "find", "try an address", "see posts", "see dates"],
  },
  "write members": {
    words: message("access.addAndRemoveMembers"),
    actions: ["keep on lists", "see lists", "fill intakes"],
  },
  "change lists": {
    words: message("access.makeAndChangeLists"),
    actions: ["change lists", "see lists", "see the board", "ask for permission"],
  },
  send: {
    words: message("access.sendMail"),
    actions: [
      "write to lists",
      "see lists",
      "see posts",
      "keep private lists",
      "see dates",
      "make dates",
    ],
  },
  "read people": {
    words: message("access.readPeopleAndFamilies"),
    actions: ["see people", "export people", "find"],
  },
  "import sheets": {
    words: message("access.importSheetsAndBringLists"),
    actions: [
      "see sources",
      "read a source",
      "add rows",
      "see rounds",
      "decide a round",
      "decide on people",
      "see the board",
    ],
  },
  "read settings": {
    words: message("access.readSettingsAndTheJournal"),
    actions: ["see the house", "see the journal", "see requests", "see the board"],
  },
  "change settings": {
    words: message("access.changeSettingsAndForms"),
    actions: ["see the house", "change the house", "make forms", "make intakes", "decide requests"],
  },
} as const satisfies Record<string, { words: Message; actions: readonly Action[] }>;

export type TokenScope = keyof typeof TOKEN_SCOPES;

export const TOKEN_SCOPE_NAMES = Object.keys(TOKEN_SCOPES) as [TokenScope, ...TokenScope[]];

/**
 * Whether a token's scopes allow an action. Accounts, sessions and other tokens are in no scope: a token makes no tokens, invites
 * nobody and removes nobody's data.
 */
export function tokenMay(scopes: readonly TokenScope[], action: Action): boolean {
  return (
    action === "see who is signed in" ||
    scopes.some((scope) => (TOKEN_SCOPES[scope].actions as readonly Action[]).includes(action))
  );
}
