import { lines, message, type Message } from "@amigo/language/message";
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

const SIGNED = (house: string): Message => message("shared.thisMailWasSentBy", { house });

/**
 * The mail by which a family confirms its address. It says nothing of whether the child or the address is known, and holds
 * nothing that was filled in: else anybody could have Amigo send their words to any address.
 */
export function confirmAnswerNote({ house, title, url }: Omit<AnswerTold, "child">): Note {
  return {
    subject: message("forms.pleaseConfirm", { title: oneHeaderLine(title) }),
    text: lines(
      message("forms.hello"),
      "",
      message("forms.thisAddressWasFilledIn", { title: oneHeaderLine(title), house }),
      url,
      "",
      message("forms.byTheSameLinkYou"),
      "",
      message("forms.ifItWasNotYou"),
      "",
      SIGNED(house),
    ),
  };
}

/** The mail to a second guardian whom somebody else has named; who it was and for which child stands behind the link. */
export function secondGuardianNote({ house, title, url }: Omit<AnswerTold, "child">): Note {
  return {
    subject: message("forms.pleaseConfirm", { title: oneHeaderLine(title) }),
    text: lines(
      message("forms.hello"),
      "",
      message("forms.youWereNamedAsA", { title: oneHeaderLine(title), house }),
      url,
      "",
      message("forms.ifYouDoNotThere"),
      "",
      SIGNED(house),
    ),
  };
}

/** The word to a family whose answer somebody has looked at. */
export function decidedAnswerNote({ house, title, child, url }: AnswerTold, taken: boolean): Note {
  return {
    subject: message("forms.yourAnswer", { title: oneHeaderLine(title) }),
    text: lines(
      message("forms.hello"),
      "",
      taken
        ? message("forms.theOfficeOfHasLooked", {
            house,
            child: oneHeaderLine(child),
            title: oneHeaderLine(title),
          })
        : message("forms.theOfficeOfCouldNot", {
            house,
            child: oneHeaderLine(child),
            title: oneHeaderLine(title),
          }),
      "",
      message("forms.yourAnswersAreHere"),
      url,
      "",
      SIGNED(house),
    ),
  };
}
