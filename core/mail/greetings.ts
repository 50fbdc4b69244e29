import { oneHeaderLine } from "./headerText";
import type { Note } from "./returnNote";

/** What a greeting is about. */
export interface GreetingOf {
  house: string;
  title: string;
  address: string;
  description: string;
  /** The list's own welcome; empty for the usual words. */
  welcome: string;
}

/** The parts that a welcome can have, and what fills each. */
function fill(text: string, { house, title, address }: GreetingOf): string {
  const parts: Record<string, string> = { list: title, address, house };
  return text.replace(/\{(list|address|house)\}/g, (_, part: string) => parts[part] ?? "");
}

/** The welcome of a list: its own words with `{list}`, `{address}` and `{house}` filled in, or the usual ones. */
export function welcomeNote(list: GreetingOf): Note {
  const usual = ["Hello,", "", "this address is on the list {list} ({address}) of {house} from now on.", ...(list.description === "" ? [] : ["", list.description])].join("\r\n");
  return { subject: oneHeaderLine(`Welcome to ${list.title}`), text: [fill(list.welcome.trim() === "" ? usual : list.welcome.replace(/\r?\n/g, "\r\n"), list), "", `This mail was sent by Amigo, which looks after the lists of ${list.house}. If it should not have come to you, write to the office.`].join("\r\n") };
}

/** The question whether somebody wants to be on a list, with the link by which they say yes. */
export function askNote(list: GreetingOf, by: string, url: string): Note {
  return {
    subject: oneHeaderLine(`Would you like to be on ${list.title}?`),
    text: [
      "Hello,", "", `${oneHeaderLine(by)} would like to put this address on the list ${list.title} (${list.address}) of ${list.house}.`, ...(list.description === "" ? [] : ["", list.description]), "",
      "If you want its mail, say yes here, or answer this mail:", url, "", "If you do not, there is nothing to do: without your yes nothing is sent to you.", "", `This mail was sent by Amigo, which looks after the lists of ${list.house}.`,
    ].join("\r\n"),
  };
}
