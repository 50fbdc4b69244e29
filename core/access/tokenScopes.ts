import type { Action } from "./may";

/** What an API token may be given, each with the actions that it allows and the words for it. */
export const TOKEN_SCOPES = {
  "read lists": {
    words: "Read lists and their members",
    actions: ["see the board", "see lists", "find", "try an address", "see posts"],
  },
  "write members": {
    words: "Add and remove members",
    actions: ["keep on lists", "see lists", "fill intakes"],
  },
  "change lists": {
    words: "Make and change lists",
    actions: ["change lists", "see lists", "see the board", "ask for permission"],
  },
  send: {
    words: "Send mail",
    actions: ["write to lists", "see lists", "see posts", "keep private lists"],
  },
  "read people": {
    words: "Read people and families",
    actions: ["see people", "export people", "find"],
  },
  "import sheets": {
    words: "Import sheets and bring lists in step",
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
    words: "Read settings and the journal",
    actions: ["see the house", "see the journal", "see requests", "see the board"],
  },
  "change settings": {
    words: "Change settings and forms",
    actions: ["see the house", "change the house", "make forms", "make intakes", "decide requests"],
  },
} as const satisfies Record<string, { words: string; actions: readonly Action[] }>;

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
