import type { DraftContent } from "@amigo/contract/drafts";

/** A script's post as the composer would have put it together. */
export function contentOf({
  lists,
  privately,
}: {
  lists: readonly string[];
  privately: readonly string[];
}): DraftContent {
  return {
    to: [
      ...lists.map((id) => ({ kind: "list" as const, id, name: "" })),
      ...privately.map((id) => ({ kind: "private" as const, id, name: "" })),
    ],
    cc: [],
    bcc: [],
    leftOut: [],
    answers: null,
    subject: "",
    html: "",
    language: "",
    versions: [],
    as: "oneself",
    copyToMe: false,
    shown: false,
  };
}
