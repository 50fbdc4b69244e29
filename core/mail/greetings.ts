import { each, lines, message, type Message } from "@amigo/language/message";
import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";
import { fillWelcome, type WelcomeValues } from "./welcomeText";

/** What a greeting is about. */
export interface GreetingOf {
  house: string;
  title: string;
  address: string;
  description: string;
  /** The words of an intake or of the list itself; empty for the usual ones. */
  welcome: string;
  /** Who leads it, and how one leaves it, in words. */
  lead: string;
  howToLeave: string;
  /** Where a member finds all that is theirs. */
  page: string;
  /** What is on the list's shelf, with links; empty for nothing. */
  shelf: string;
}

/** Who is greeted, as far as the house knows. */
export type Greeted = Pick<WelcomeValues, "first name" | "name" | "children" | "class">;

/** The welcome of a list for one person: its own words with their fields filled in, or the usual ones. */
export function welcomeNote(list: GreetingOf, to: Greeted): Note {
  const { house, title, address, description, lead, howToLeave, page, shelf } = list;
  const told =
    list.welcome.trim() === ""
      ? lines(
          message("mail.hello", { name: to["first name"] }),
          "",
          message("mail.youAreOn", { title, address, house, lead }),
          ...(description === "" ? [] : ["", description]),
          "",
          howToLeave,
          "",
          message("mail.allYourLists"),
          page,
          ...(shelf === "" ? [] : ["", message("mail.sharedWithThisList"), shelf]),
        )
      : fillWelcome(list.welcome, {
          ...to,
          list: title,
          address,
          house,
          lead,
          "how to leave": howToLeave,
          page,
          shelf,
        }).replace(/\r?\n/g, "\r\n");
  return {
    subject: message("mail.welcomeTo", { title: oneHeaderLine(title) }),
    text: lines(told, "", message("mail.thisMailWasSentBy", { house })),
  };
}

/** The question whether somebody wants to be on a list, with the link by which they say yes; `again` where it is asked for the second and last time. */
export function askNote(
  list: Pick<GreetingOf, "house" | "title" | "address" | "description">,
  by: string,
  url: string,
  again = false,
): Note {
  return {
    subject: message("mail.wouldYouLike", { again, title: oneHeaderLine(list.title) }),
    text: lines(
      message("mail.hello", { name: "" }),
      "",
      message("mail.wouldLikeToPutThis", {
        by: oneHeaderLine(by),
        title: list.title,
        address: list.address,
        house: list.house,
      }),
      ...(list.description === "" ? [] : ["", list.description]),
      "",
      message("mail.ifYouWantItsMail"),
      url,
      "",
      again ? message("mail.ifYouDoNotThere2") : message("mail.ifYouDoNotThere"),
      "",
      message("shared.thisMailWasSentBy", { house: list.house }),
    ),
  };
}

/** How members leave a list, in a sentence. */
export function howToLeave(
  list: { title: string; name: string; domain: string; leaving: string },
  leads: readonly string[],
  house: string,
): Message {
  if (list.leaving === "by oneself")
    return message("mail.leaveByMail", { address: `${list.name}+leave@${list.domain}` });
  return leads.length === 0
    ? message("mail.leaveThroughTheOffice", {
        title: list.title,
        house,
        address: `postmaster@${list.domain}`,
      })
    : message("mail.leaveThroughALead", { title: list.title, leads: each(leads, "or") });
}
