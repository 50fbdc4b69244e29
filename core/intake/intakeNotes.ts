import { lines, message } from "@amigo/language/message";
import { oneHeaderLine } from "../mail/headerText";
import type { Note } from "../mail/returnNote";

/** What whoever watches a list or an intake is told: how many were added since they were last told. Names nobody: who it was is seen behind the link. */
export function addedNote(
  house: string,
  watched: readonly { title: string; added: number; url: string }[],
): Note {
  const [only] = watched;
  const total = watched.reduce((sum, { added }) => sum + added, 0);
  return {
    subject:
      watched.length === 1 && only !== undefined
        ? message("intake.added", { title: oneHeaderLine(only.title), added: only.added })
        : message("intake.addedToWhatYouWatch", { total }),
    text: lines(
      message("intake.whatYouWatchHasGrown"),
      "",
      ...watched.flatMap(({ title, added, url }) => [
        message("intake.added", { title, added }),
        `  ${url}`,
        "",
      ]),
      message("intake.thisMailComesAtMost", { house }),
    ),
  };
}

/** What a lead is told a week before people leave their list by their last day. */
export function endsSoonNote(
  house: string,
  list: { title: string; url: string },
  people: readonly { person: string; address: string; until: string; intake: string }[],
): Note {
  return {
    subject: message("intake.withinAWeek", {
      title: oneHeaderLine(list.title),
      people: people.length,
    }),
    text: lines(
      message("intake.theseLeaveOnceTheirLast", { title: list.title }),
      "",
      ...people.map(({ person, address, until, intake }) =>
        message("intake.lastDayBy", {
          person: oneHeaderLine(person),
          address: oneHeaderLine(address),
          until: { day: until },
          intake: oneHeaderLine(intake),
        }),
      ),
      "",
      message("intake.nothingIsToBeDone"),
      list.url,
      "",
      message("shared.thisNoteWasWrittenBy", { house }),
    ),
  };
}
