import { oneHeaderLine } from "../mail/headerText";
import type { Note } from "../mail/returnNote";

/** What the mails about an answer say it is about. */
export interface AnswerTold {
  house: string;
  /** The form's title, and the child's name. */
  title: string;
  child: string;
  url: string;
}

const SIGNED = (house: string): string =>
  `This mail was sent by Amigo, which looks after the lists of ${house}.`;

/**
 * The mail by which a family confirms its address. It says nothing of whether the child or the address is known, and holds
 * nothing that was filled in: else anybody could have Amigo send their words to any address.
 */
export function confirmAnswerNote({ house, title, url }: Omit<AnswerTold, "child">): Note {
  return {
    subject: oneHeaderLine(`Please confirm: ${title}`),
    text: [
      "Hello,",
      "",
      `this address was filled in on the form "${oneHeaderLine(title)}" of ${house}. If it was you, open this link and press the button; your answer counts from then on:`,
      url,
      "",
      "By the same link you can look at your answers, change them, and add another child.",
      "",
      "If it was not you, there is nothing to do: without the button nothing is kept in your name.",
      "",
      SIGNED(house),
    ].join("\r\n"),
  };
}

/** The mail to a second guardian whom somebody else has named; who it was and for which child stands behind the link. */
export function secondGuardianNote({ house, title, url }: Omit<AnswerTold, "child">): Note {
  return {
    subject: oneHeaderLine(`Please confirm: ${title}`),
    text: [
      "Hello,",
      "",
      `you were named as a guardian on the form "${oneHeaderLine(title)}" of ${house}. If you want its mail at this address as well, say so here:`,
      url,
      "",
      "If you do not, there is nothing to do: nothing is sent to this address.",
      "",
      SIGNED(house),
    ].join("\r\n"),
  };
}

/** The word to a family whose answer somebody has looked at. */
export function decidedAnswerNote({ house, title, child, url }: AnswerTold, taken: boolean): Note {
  return {
    subject: oneHeaderLine(`Your answer: ${title}`),
    text: [
      "Hello,",
      "",
      taken
        ? `the office of ${house} has looked at your answer for ${oneHeaderLine(child)} on the form "${oneHeaderLine(title)}". It counts now.`
        : `the office of ${house} could not take your answer for ${oneHeaderLine(child)} on the form "${oneHeaderLine(title)}". If you think this is wrong, reply to this mail.`,
      "",
      "Your answers are here:",
      url,
      "",
      SIGNED(house),
    ].join("\r\n"),
  };
}
