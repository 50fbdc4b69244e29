import { each, message, type Message } from "@amigo/language/message";

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
  sentence: Message;
}

const PROMISES =
  /\b(attach(ed|ment|ments)?|enclos(ed|ure)|see the (file|flyer|sheet|pdf)|im anhang|anbei|angeh[aä]ngt|beigef[uü]gt|ci-joint|pi[eè]ce jointe|adjunt[oa]s?|in allegato)\b/i;

type Check = (mail: AboutToSend) => Message | undefined;

/** Every question, by its name; each answers a sentence where there is something to ask. */
const CHECKS: Record<string, Check> = {
  "season over": ({ seasonsOver }) =>
    seasonsOver.length === 0
      ? undefined
      : message("mail.theSeasonIsOverDo", { seasons: each([...new Set(seasonsOver)]) }),
  "answer to all": ({ answersLists, addresses }) =>
    answersLists.length === 0
      ? undefined
      : message("mail.thisAnswerGoesToEverybody", { answersLists: each(answersLists), addresses }),
  many: ({ addresses, mostBefore, many }) =>
    addresses >= many && addresses > mostBefore
      ? message("mail.youWriteTo", { addresses, mostBefore })
      : undefined,
  shown: ({ shown, addresses }) =>
    shown && addresses > 1 ? message("mail.eachOfTheRecipientsSees", { addresses }) : undefined,
  attachment: ({ text, subject, attachments }) =>
    attachments === 0 && PROMISES.test(`${subject}\n${withoutQuotes(text)}`)
      ? message("mail.youSpeakOfSomethingAttached")
      : undefined,
  outside: ({ outside, inside }) =>
    outside.length > 0 && outside.length <= 3 && inside >= 3 * outside.length
      ? message("mail.outsideYourDomainsEverybodyElse", {
          addresses: each(outside),
          count: outside.length,
        })
      : undefined,
  fields: ({ unknownFields }) =>
    unknownFields.length === 0
      ? undefined
      : message("mail.wouldStayAsItIs", {
          fields: each(unknownFields.map((field) => `{${field}}`)),
        }),
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
