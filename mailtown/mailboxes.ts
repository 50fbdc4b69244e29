import { appendFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { simpleParser } from "mailparser";

/** How a mailbox takes mail. */
export const BEHAVIOURS = {
  takes: "takes mail",
  refuses: "refuses everything (550)",
  full: "is full (452, try later)",
  delays: 'says "later" for the first 20 seconds (451)',
  slow: "takes mail, and takes 10 seconds over it",
  unwanted: "refuses it as unwanted (554)",
  "gone later": "takes mail, then reports that there is no such mailbox",
  "full later": "takes mail, then reports that it is full",
  "late report": "takes mail, then reports that it is late",
  "old transcript": "takes mail, then returns it with an old form of transcript",
  "plain words": "takes mail, then returns it with words alone, in German",
  "thinks it unwanted": "takes mail, then reports that it was refused as unwanted",
  "out of office": "takes mail, and answers that its owner is away",
} as const;

export type Behaviour = keyof typeof BEHAVIOURS;

export interface Letter {
  id: number;
  mailbox: string;
  at: string;
  returnPath: string;
  raw: string;
}

export interface OpenedLetter {
  id: number;
  at: string;
  returnPath: string;
  subject: string;
  from: string;
  to: string;
  replyTo: string;
  messageId: string;
  text: string;
  headers: string;
}

/** Who lives in Mailtown, and for which domains it takes mail at all. */
export interface Directory {
  domains: string[];
  listDomain: string;
  mailboxes: { name: string; address: string }[];
}

/** All mailboxes, kept in a folder so that they are there again after a restart. */
export class Mailboxes {
  private readonly letters: Letter[] = [];
  private readonly behaviours: Record<string, Behaviour>;
  private readonly firstTries = new Map<string, number>();
  private readonly names: Map<string, string>;
  private readonly lettersFile: string;
  private readonly behavioursFile: string;

  constructor(
    readonly directory: Directory,
    folder: string,
  ) {
    mkdirSync(folder, { recursive: true });
    this.lettersFile = join(folder, "letters.jsonl");
    this.behavioursFile = join(folder, "behaviours.json");
    this.names = new Map(directory.mailboxes.map(({ name, address }) => [address, name]));
    if (existsSync(this.lettersFile))
      for (const line of readFileSync(this.lettersFile, "utf8").split("\n"))
        if (line !== "") this.letters.push(JSON.parse(line) as Letter);
    this.behaviours = existsSync(this.behavioursFile)
      ? (JSON.parse(readFileSync(this.behavioursFile, "utf8")) as Record<string, Behaviour>)
      : {};
  }

  /** Undefined when the mailbox takes a mail now, else the code and words by which it does not. */
  refusal(address: string, now: number): { code: number; words: string } | undefined {
    const domain = address.slice(address.lastIndexOf("@") + 1);
    if (!this.directory.domains.includes(domain))
      return { code: 550, words: "5.1.2 no such domain in Mailtown" };
    const behaviour = this.behaviours[address] ?? "takes";
    if (behaviour === "refuses")
      return { code: 550, words: "5.1.1 nobody takes mail here any more" };
    if (behaviour === "unwanted") return { code: 554, words: "5.7.1 this looks like bulk mail" };
    if (behaviour === "full") return { code: 452, words: "4.2.2 this mailbox is full" };
    if (behaviour === "delays") {
      const first = this.firstTries.get(address) ?? now;
      this.firstTries.set(address, first);
      if (now - first < 20_000) return { code: 451, words: "4.7.1 not now, try again in a while" };
    }
    return undefined;
  }

  put(mailbox: string, returnPath: string, raw: Buffer): Letter {
    const letter: Letter = {
      id: this.letters.length + 1,
      mailbox,
      at: new Date().toISOString(),
      returnPath,
      raw: raw.toString("base64"),
    };
    this.letters.push(letter);
    appendFileSync(this.lettersFile, `${JSON.stringify(letter)}\n`);
    return letter;
  }

  setBehaviour(address: string, behaviour: Behaviour): void {
    this.behaviours[address] = behaviour;
    this.firstTries.delete(address);
    writeFileSync(this.behavioursFile, JSON.stringify(this.behaviours));
  }

  behaviourOf(address: string): Behaviour {
    return this.behaviours[address] ?? "takes";
  }

  nameOf(address: string): string {
    return this.names.get(address) ?? "";
  }

  /** Every mailbox that somebody lives in or that got mail, those with the newest mail first. */
  all(): { address: string; name: string; letters: number; last: string; behaviour: Behaviour }[] {
    const rows = new Map(
      this.directory.mailboxes.map(({ address, name }) => [
        address,
        { address, name, letters: 0, last: "", behaviour: this.behaviourOf(address) },
      ]),
    );
    for (const { mailbox, at } of this.letters) {
      const row = rows.get(mailbox) ?? {
        address: mailbox,
        name: "",
        letters: 0,
        last: "",
        behaviour: this.behaviourOf(mailbox),
      };
      rows.set(mailbox, { ...row, letters: row.letters + 1, last: at });
    }
    return [...rows.values()].sort((a, b) =>
      a.last === b.last ? a.address.localeCompare(b.address) : a.last < b.last ? 1 : -1,
    );
  }

  /** The letters of a mailbox, newest first. */
  async lettersOf(mailbox: string): Promise<OpenedLetter[]> {
    return Promise.all(
      this.letters
        .filter((letter) => letter.mailbox === mailbox)
        .reverse()
        .map(open),
    );
  }

  async letter(
    id: number,
  ): Promise<{ mailbox: string; raw: Buffer; opened: OpenedLetter } | undefined> {
    const found = this.letters[id - 1];
    return found === undefined
      ? undefined
      : {
          mailbox: found.mailbox,
          raw: Buffer.from(found.raw, "base64"),
          opened: await open(found),
        };
  }
}

async function open({ id, at, returnPath, raw }: Letter): Promise<OpenedLetter> {
  const octets = Buffer.from(raw, "base64");
  const parsed = await simpleParser(octets);
  const to = Array.isArray(parsed.to)
    ? parsed.to.map(({ text }) => text).join(", ")
    : (parsed.to?.text ?? "");
  const end = octets.indexOf("\r\n\r\n");
  return {
    id,
    at,
    returnPath,
    subject: parsed.subject ?? "",
    from: parsed.from?.text ?? "",
    to,
    replyTo: parsed.replyTo?.value[0]?.address ?? parsed.from?.value[0]?.address ?? "",
    messageId: parsed.messageId ?? "",
    text: parsed.text ?? "",
    headers: octets.subarray(0, end < 0 ? undefined : end).toString("utf8"),
  };
}
