import { lines, message, type Message } from "@amigo/language/message";
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
    subject:
      changes.length === 1 && only !== undefined
        ? message("mail.titleChange", { title: oneHeaderLine(only.title), change: words(only) })
        : message("mail.changed", { changes: changes.length }),
    text: lines(
      changes.length === 1
        ? message("mail.aListThatYouLead")
        : message("mail.listsThatYouLeadHave"),
      "",
      ...changes.flatMap((change) => [
        `${change.title} (${change.address})`,
        message("mail.now", { change: words(change), members: change.members }),
        `  ${change.url}`,
        "",
      ]),
      message("mail.thisMailComesAtMost", { house }),
    ),
  };
}

function words({ joined, left }: ListChange): Message {
  return message("mail.joinedLeft", { joined, left });
}
