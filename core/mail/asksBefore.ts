import { counted, joined } from "../text/sentence";

/** What is known of a mail that is about to be sent. */
export interface AboutToSend {
  /** Seasons that are over, of lists it goes to. */
  seasonsOver: readonly string[];
  addresses: number;
  /** The most addresses that the writer has ever written to at once, and from how many on it is worth asking. */
  mostBefore: number;
  many: number;
  subject: string;
  text: string;
  attachments: number;
  /** Addresses outside the house, where all else is inside. */
  outside: readonly string[];
  inside: number;
  /** Whether every recipient sees the others' addresses. */
  shown: boolean;
  /** Lists that an answer goes to, beside whom it answers; none for what answers nobody. */
  answersLists: readonly string[];
  /** Words in braces that are no field. */
  unknownFields: readonly string[];
}

/** Something to be asked before a mail goes out, with a name of its own by which it is answered. */
export interface Ask {
  id: string;
  sentence: string;
}

const PROMISES =
  /\b(attach(ed|ment|ments)?|enclos(ed|ure)|see the (file|flyer|sheet|pdf)|im anhang|anbei|angeh[aä]ngt|beigef[uü]gt|ci-joint|pi[eè]ce jointe|adjunt[oa]s?|in allegato)\b/i;

type Check = (mail: AboutToSend) => string | undefined;

/** Every question, by its name; each answers a sentence where there is something to ask. */
const CHECKS: Record<string, Check> = {
  "season over": ({ seasonsOver }) =>
    seasonsOver.length === 0
      ? undefined
      : `The season ${joined([...new Set(seasonsOver)])} is over. Do you mean last season's families?`,
  "answer to all": ({ answersLists, addresses }) =>
    answersLists.length === 0
      ? undefined
      : `This answer goes to everybody on ${joined(answersLists)}: ${counted(addresses, "address", "addresses")}.`,
  many: ({ addresses, mostBefore, many }) =>
    addresses >= many && addresses > mostBefore
      ? `You write to ${counted(addresses, "address", "addresses")}, ${mostBefore === 0 ? "your first mail to so many" : `more than ever before (${mostBefore})`}.`
      : undefined,
  shown: ({ shown, addresses }) =>
    shown && addresses > 1
      ? `Each of the ${addresses} recipients sees the addresses of the others, and an answer to all goes to everybody.`
      : undefined,
  attachment: ({ text, subject, attachments }) =>
    attachments === 0 && PROMISES.test(`${subject}\n${withoutQuotes(text)}`)
      ? "You speak of something attached, and nothing is."
      : undefined,
  outside: ({ outside, inside }) =>
    outside.length > 0 && outside.length <= 3 && inside >= 3 * outside.length
      ? `${joined(outside)} ${outside.length === 1 ? "is" : "are"} outside your domains; everybody else is inside.`
      : undefined,
  fields: ({ unknownFields }) =>
    unknownFields.length === 0
      ? undefined
      : `${joined(unknownFields.map((field) => `{${field}}`))} would stay as it is: there is no such field.`,
};

/** What is to be asked before a mail goes out, in the order of how bad it could be. */
export function asksBefore(mail: AboutToSend): Ask[] {
  return Object.entries(CHECKS).flatMap(([id, check]) => {
    const sentence = check(mail);
    return sentence === undefined ? [] : [{ id, sentence }];
  });
}

/** A text without the lines that quote an earlier mail. */
function withoutQuotes(text: string): string {
  return text
    .split(/\r?\n/)
    .filter((line) => !/^\s*>/.test(line))
    .join("\n");
}
