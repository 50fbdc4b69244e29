import { counted } from "../text/sentence";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** What changed on one list. */
export interface ListChange {
  title: string;
  address: string;
  url: string;
  joined: number;
  left: number;
  members: number;
}

/** The short mail by which a lead learns that their lists have changed. Names no member: who joined is seen behind the link. */
export function listsChangedNote(house: string, changes: readonly ListChange[]): Note {
  const [only] = changes;
  return {
    subject: oneHeaderLine(
      changes.length === 1 && only !== undefined
        ? `${only.title}: ${words(only)}`
        : `${counted(changes.length, "of your lists", "of your lists")} changed`,
    ),
    text: [
      changes.length === 1
        ? "A list that you lead has changed:"
        : "Lists that you lead have changed:",
      "",
      ...changes.flatMap((change) => [
        `${change.title} (${change.address})`,
        `  ${words(change)}; ${counted(change.members, "address", "addresses")} now`,
        `  ${change.url}`,
        "",
      ]),
      `This mail comes at most once a day. It was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}

function words({ joined, left }: ListChange): string {
  return [joined > 0 ? `${joined} joined` : "", left > 0 ? `${left} left` : ""]
    .filter((part) => part !== "")
    .join(", ");
}
