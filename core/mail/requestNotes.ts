import { each, lines, message, type Value } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** What a list tells of itself to whoever writes to `list-request`. */
export interface ListTold {
  title: string;
  address: string;
  description: string;
  house: string;
  /** Who may write to it and the rest, as its rules have it. */
  sentences: readonly Value[];
  leads: readonly string[];
  /** The address by which a member leaves; empty where members leave through a lead. */
  leave: string;
  page: string;
}

/** The answer to mail to `list-request` (RFC 2142, section 6): what the list is, whom to ask, how to leave. Names no member. */
export function aboutListNote({
  title,
  address,
  description,
  house,
  sentences,
  leads,
  leave,
  page,
}: ListTold): Note {
  return {
    subject: message("mail.about", { title: oneHeaderLine(title) }),
    text: lines(
      message("mail.isAListOf", { title, address, house }),
      ...(description === "" ? [] : ["", description]),
      "",
      ...sentences,
      "",
      leads.length === 0
        ? message("mail.questionsGoToTheOffice", { house })
        : message("mail.itIsRunBy", { leads: each(leads) }),
      "",
      leave === "" ? message("mail.toLeaveItWriteTo") : message("mail.ifYouAreOnIt", { leave }),
      "",
      message("mail.allYourListsHowOften"),
      page,
      "",
      message("shared.thisNoteWasWrittenBy", { house }),
    ),
  };
}

/** The answer to a wish to leave: done; not needed, as the list is closed; to be confirmed, where nothing proves whose wish it is; through a lead; or not on the list. */
export function leaveNote(
  { title, house }: { title: string; house: string },
  state:
    | { is: "left" }
    | { is: "not on it" }
    | { is: "closed" }
    | { is: "through a lead"; leads: readonly string[] }
    | { is: "confirm"; address: string; url: string },
): Note {
  const end = ["", message("shared.thisNoteWasWrittenBy", { house })];
  switch (state.is) {
    case "left":
      return {
        subject: message("mail.youHaveLeft", { title: oneHeaderLine(title) }),
        text: lines(message("mail.thisAddressGetsNoMore", { title, house }), ...end),
      };
    case "not on it":
      return {
        subject: message("mail.about", { title: oneHeaderLine(title) }),
        text: lines(message("mail.thisAddressGetsNoMail", { title }), ...end),
      };
    case "closed":
      return {
        subject: message("mail.about", { title: oneHeaderLine(title) }),
        text: lines(message("mail.thisListIsClosedSo", { title }), ...end),
      };
    case "through a lead":
      return {
        subject: message("mail.toLeave", { title: oneHeaderLine(title) }),
        text: lines(
          state.leads.length === 0
            ? message("mail.onlyALeadCanTake2", { title, house })
            : message("mail.onlyALeadCanTake", { title, leads: each(state.leads, "or") }),
          ...end,
        ),
      };
    case "confirm":
      return {
        subject: message("mail.leave", { title: oneHeaderLine(title) }),
        text: lines(
          message("mail.aMailInTheName", { title }),
          state.url,
          "",
          message("mail.ifItIsNotThere"),
          ...end,
        ),
      };
  }
}

/** The note with which mail to the house's own mailboxes (postmaster, abuse) goes on to a coordinator; the mail itself is attached. */
export function houseMailNote({
  mailbox,
  from,
  subject,
  house,
  complains,
}: {
  mailbox: string;
  from: string;
  subject: string;
  house: string;
  /** Whose complaint it reports, so that mail to them has stopped. */
  complains?: string | undefined;
}): Note {
  const about = oneHeaderLine(subject) || message("mail.noSubject");
  return {
    subject: message("mail.mailTo", { mailbox, about }),
    text: lines(
      message("mail.somebodyWroteToYouGet", { mailbox, house }),
      "",
      message("mail.fromLine", { from: oneHeaderLine(from) }),
      message("mail.subjectLine", { subject: about }),
      "",
      ...(complains === undefined
        ? []
        : [message("mail.complaintStopsMail", { address: complains }), ""]),
      message("mail.theWholeMailIsAttached"),
    ),
  };
}
