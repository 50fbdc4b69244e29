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
}

/** Who is greeted, as far as the house knows. */
export type Greeted = Pick<WelcomeValues, "first name" | "name" | "children" | "class">;

const USUAL_BEGIN =
  "Hello{if first name} {first name}{end},\n\nthis address is on the list {list} ({address}) of {house} from now on.{if lead} It is led by {lead}.{end}";
const USUAL_END =
  "{how to leave}\n\nAll your lists, how often, and your addresses are on your own page:\n{page}";

/** The welcome of a list for one person: its own words with their fields filled in, or the usual ones. */
export function welcomeNote(list: GreetingOf, to: Greeted): Note {
  const { house, title, address, description, lead, howToLeave, page } = list;
  const values = { ...to, list: title, address, house, lead, "how to leave": howToLeave, page };
  const told =
    list.welcome.trim() === ""
      ? [
          fillWelcome(USUAL_BEGIN, values),
          ...(description === "" ? [] : [description]),
          fillWelcome(USUAL_END, values),
        ].join("\n\n")
      : fillWelcome(list.welcome, values);
  return {
    subject: oneHeaderLine(`Welcome to ${title}`),
    text: [
      told.replace(/\r?\n/g, "\r\n"),
      "",
      `This mail was sent by Amigo, which looks after the lists of ${house}. If you got it by mistake, reply to this mail.`,
    ].join("\r\n"),
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
    subject: oneHeaderLine(
      `${again ? "Once more: would" : "Would"} you like to be on ${list.title}?`,
    ),
    text: [
      "Hello,",
      "",
      `${oneHeaderLine(by)} would like to put this address on the list ${list.title} (${list.address}) of ${list.house}.`,
      ...(list.description === "" ? [] : ["", list.description]),
      "",
      "If you want its mail, say yes here, or answer this mail:",
      url,
      "",
      again
        ? "If you do not, there is nothing to do: you are not asked again, and without your yes nothing is sent to you."
        : "If you do not, there is nothing to do: without your yes nothing is sent to you.",
      "",
      `This mail was sent by Amigo, which looks after the lists of ${list.house}.`,
    ].join("\r\n"),
  };
}

/** How members leave a list, in a sentence. */
export function howToLeave(
  list: { title: string; name: string; domain: string; leaving: string },
  leads: readonly string[],
  house: string,
): string {
  if (list.leaving === "by oneself")
    return `To leave, write to ${list.name}+leave@${list.domain} from this address, or use the link in any mail of the list.`;
  return `To leave ${list.title}, ${leads.length === 0 ? `write to ${house} at postmaster@${list.domain}.` : `ask ${leads.join(" or ")}.`}`;
}
