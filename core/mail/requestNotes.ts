import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** What a list tells of itself to whoever writes to `list-request`. */
export interface ListTold {
  title: string;
  address: string;
  description: string;
  house: string;
  /** Who may write to it and the rest, as its rules have it. */
  sentences: readonly string[];
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
    subject: oneHeaderLine(`About ${title}`),
    text: [
      `${title} (${address}) is a list of ${house}.`,
      ...(description === "" ? [] : ["", description]),
      "",
      ...sentences,
      "",
      leads.length === 0
        ? `Questions go to the office of ${house}.`
        : `It is run by ${leads.join(", ")}.`,
      "",
      leave === ""
        ? "To leave it, write to a lead."
        : `If you are on it and want to leave, write to ${leave}, from the address that gets its mail.`,
      "",
      "All your lists, how often, and your addresses are on your own page; ask for its link here:",
      page,
      "",
      `This note was written by Amigo, which looks after the lists of ${house}.`,
    ].join("\r\n"),
  };
}

/** The answer to a wish to leave: done; to be confirmed, where nothing proves whose wish it is; through a lead; or not on the list. */
export function leaveNote(
  { title, house }: { title: string; house: string },
  state:
    | { is: "left" }
    | { is: "not on it" }
    | { is: "through a lead"; leads: readonly string[] }
    | { is: "confirm"; address: string; url: string },
): Note {
  const end = ["", `This note was written by Amigo, which looks after the lists of ${house}.`];
  switch (state.is) {
    case "left":
      return {
        subject: oneHeaderLine(`You have left ${title}`),
        text: [
          `This address gets no more mail from ${title}. No sheet will put it back on; the office of ${house} can.`,
          ...end,
        ].join("\r\n"),
      };
    case "not on it":
      return {
        subject: oneHeaderLine(`About ${title}`),
        text: [
          `This address gets no mail from ${title}, so there is nothing to leave. If its mail reaches you, it comes by another address of yours: write from that one.`,
          ...end,
        ].join("\r\n"),
      };
    case "through a lead":
      return {
        subject: oneHeaderLine(`To leave ${title}`),
        text: [
          state.leads.length === 0
            ? `Only a lead can take members off ${title}. It has none now, so reply to this mail, and ${house} will do it.`
            : `Only a lead can take members off ${title}. Write to ${state.leads.join(" or ")}.`,
          ...end,
        ].join("\r\n"),
      };
    case "confirm":
      return {
        subject: oneHeaderLine(`Leave ${title}?`),
        text: [
          `A mail in the name of this address asked to leave ${title}. If that is your wish, answer this mail, or say so here:`,
          state.url,
          "",
          "If it is not, there is nothing to do.",
          ...end,
        ].join("\r\n"),
      };
  }
}

/** The note with which mail to the house's own mailboxes (postmaster, abuse) goes on to a coordinator; the mail itself is attached. */
export function houseMailNote({
  mailbox,
  from,
  subject,
  house,
}: {
  mailbox: string;
  from: string;
  subject: string;
  house: string;
}): Note {
  const about = oneHeaderLine(subject) || "(no subject)";
  return {
    subject: `Mail to ${mailbox}: ${about}`,
    text: [
      `Somebody wrote to ${mailbox}. You get it because you coordinate the lists of ${house}.`,
      "",
      `From: ${oneHeaderLine(from)}`,
      `Subject: ${about}`,
      "",
      "The whole mail is attached. Amigo has not checked who really sent it. To answer, write a new mail.",
    ].join("\r\n"),
  };
}
