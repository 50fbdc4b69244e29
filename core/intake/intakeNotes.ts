import { oneHeaderLine } from "../mail/headerText";
import type { Note } from "../mail/returnNote";
import { counted } from "../text/sentence";

/** What whoever watches a list or an intake is told: how many were added since they were last told. Names nobody: who it was is seen behind the link. */
export function addedNote(
  house: string,
  watched: readonly { title: string; added: number; url: string }[],
): Note {
  const [only] = watched;
  const total = watched.reduce((sum, { added }) => sum + added, 0);
  return {
    subject: oneHeaderLine(
      watched.length === 1 && only !== undefined
        ? `${only.title}: ${counted(only.added, "address", "addresses")} added`
        : `${counted(total, "address", "addresses")} added to what you watch`,
    ),
    text: [
      "What you watch has grown:",
      "",
      ...watched.flatMap(({ title, added, url }) => [
        `${title}: ${counted(added, "address", "addresses")} added`,
        `  ${url}`,
        "",
      ]),
      `This mail comes at most once an hour, and only when somebody was added. Stop watching behind the link. It was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}

/** What a lead is told a week before people leave their list by their last day. */
export function endsSoonNote(
  house: string,
  list: { title: string; url: string },
  people: readonly { person: string; address: string; until: string; intake: string }[],
): Note {
  return {
    subject: oneHeaderLine(
      `${list.title}: ${counted(people.length, "person leaves", "people leave")} within a week`,
    ),
    text: [
      `These leave ${list.title} once their last day is over:`,
      "",
      ...people.map(({ person, address, until, intake }) =>
        oneHeaderLine(`${person} (${address}), last day ${until}, by "${intake}"`),
      ),
      "",
      "Nothing is to be done if that is right. To keep somebody longer, keep them on the list by hand, with a later day or none:",
      list.url,
      "",
      `This note was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}
