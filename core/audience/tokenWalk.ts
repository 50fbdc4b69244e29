import { each, message, type Message } from "@amigo/language/message";
import { isOneSlip } from "../text/slip";
import type { AudienceFault, Expected, NameKind, Who } from "./audience";
import { tokens, type Token } from "./tokens";

/** A fault on the way through a text; caught where the parsing began. */
export class Fault extends Error {
  constructor(readonly fault: AudienceFault) {
    super("the audience is not understood");
  }
}

/** Other words that people write for the groups of the language, and the word that each stands for. */
const ALSO: Record<string, Who | "guardians" | "everyone"> = {
  student: "students",
  pupil: "students",
  pupils: "students",
  child: "students",
  children: "students",
  kids: "students",
  parent: "guardians",
  parents: "guardians",
  guardian: "guardians",
  families: "guardians",
  coach: "coaches",
  teacher: "coaches",
  teachers: "coaches",
  trainers: "coaches",
  lead: "leads",
  everybody: "everyone",
  anyone: "everyone",
};
/** Words that end a name written without quotes. A name that holds one of them needs its quotes. */
const ENDS_NAME: ReadonlySet<string> = new Set([
  "in",
  "of",
  "at",
  "except",
  "without",
  "where",
  "such",
]);

/** Walks through the tokens of one text. What could have stood at the furthest place is remembered for completing. */
export class TokenWalk {
  readonly #text: string;
  readonly #tokens: Token[];
  #next = 0;
  #expected: Expected[] = [];
  #expectedAt = 0;
  /** Where a name without quotes begins that goes on to the end of the text. */
  openName: number | undefined;

  constructor(text: string) {
    this.#text = text;
    this.#tokens = tokens(text);
  }

  /** What tells people of one name apart: `"Ida Berg" (CW-1023)`. */
  protected hint(): string {
    const open = this.#tokens[this.#next];
    if (open?.kind !== "sign" || open.text !== "(") return "";
    const close = this.#tokens.findIndex(
      ({ kind, text }, index) => index > this.#next && kind === "sign" && text === ")",
    );
    this.#next = close < 0 ? this.#tokens.length : close;
    if (this.sign(")") === undefined) throw this.wanted(")");
    return this.#text.slice(open.at + 1, this.#tokens[close]?.at).trim();
  }

  end(): void {
    const rest = this.#tokens[this.#next];
    if (rest === undefined) return;
    if (/^(and|plus)$/i.test(rest.text))
      throw this.fault(message("audience.writeBetweenTwoGroupsStudents"), "+");
    throw this.fault(
      message("audience.nothingMoreIsUnderstoodFrom", { text: rest.text }),
      this.nearest(rest.text),
    );
  }

  expectedAtEnd(): Expected[] {
    return this.#expectedAt >= this.#tokens.length ? this.#expected : [];
  }

  protected at(): number {
    return this.#tokens[this.#next]?.at ?? this.#text.length;
  }

  protected expect(...expected: Expected[]): void {
    if (this.#next > this.#expectedAt) {
      this.#expected = [];
      this.#expectedAt = this.#next;
    }
    if (this.#next === this.#expectedAt) this.#expected.push(...expected);
  }

  protected word<Word extends string>(...words: Word[]): Word | undefined {
    this.expect(...words.map((word) => ({ word })));
    const token = this.#tokens[this.#next];
    const found =
      token?.kind === "word" ? words.find((word) => word === token.text.toLowerCase()) : undefined;
    if (found !== undefined) this.#next++;
    return found;
  }

  protected sign(...signs: string[]): string | undefined {
    this.expect(...signs.map((word) => ({ word })));
    const token = this.#tokens[this.#next];
    const found = token?.kind === "sign" ? signs.find((sign) => sign === token.text) : undefined;
    if (found !== undefined) this.#next++;
    return found;
  }

  protected name(name: NameKind, column?: string): string | undefined {
    this.expect(column === undefined ? { name } : { name, column });
    const token = this.#tokens[this.#next];
    if (token?.kind === "open name")
      throw this.fault(message("audience.theClosingQuoteIsMissing"), `"${token.text}"`);
    if (token?.kind !== "name" || token.text.trim() === "") return undefined;
    this.#next++;
    return token.text;
  }

  /** Takes a word that is understood, but never proposed. */
  protected also(...words: string[]): boolean {
    const token = this.#tokens[this.#next];
    if (token?.kind !== "word" || !words.includes(token.text.toLowerCase())) return false;
    this.#next++;
    return true;
  }

  protected alsoFor(word: string): boolean {
    const token = this.#tokens[this.#next];
    return (
      token?.kind === "word" &&
      Object.hasOwn(ALSO, token.text.toLowerCase()) &&
      ALSO[token.text.toLowerCase()] === word &&
      this.also(token.text.toLowerCase())
    );
  }

  /** Words up to the next sign, quote or word of the language; what they name, and where they end. */
  protected nameWithoutQuotes(): { name: string; until: number } | undefined {
    const first = this.#tokens[this.#next];
    let last: Token | undefined;
    while (this.#next < this.#tokens.length) {
      const token = this.#tokens[this.#next];
      if (token?.kind !== "word" || ENDS_NAME.has(token.text.toLowerCase())) break;
      last = token;
      this.#next++;
    }
    if (first === undefined || last === undefined) return undefined;
    if (this.#next === this.#tokens.length) this.openName = first.at;
    const until = last.at + last.length;
    return { name: this.#text.slice(first.at, until).replace(/\s+/g, " "), until };
  }

  /** A person's name of two words or more: one word alone is rather a slip in a word of the language. */
  protected personWithoutQuotes(): string | undefined {
    const [first, second] = [this.#tokens[this.#next], this.#tokens[this.#next + 1]];
    const isWord = (token: Token | undefined): boolean =>
      token?.kind === "word" && !ENDS_NAME.has(token.text.toLowerCase());
    return isWord(first) && isWord(second) ? this.nameWithoutQuotes()?.name : undefined;
  }

  protected plain(): string | undefined {
    const token = this.#tokens[this.#next];
    if (token?.kind !== "word") return undefined;
    this.#next++;
    return token.text;
  }

  protected wanted(...words: string[]): Fault {
    const token = this.#tokens[this.#next];
    const wanted = each(
      words.map((word) => `"${word}"`),
      "or",
    );
    if (token === undefined)
      return this.fault(message("audience.hereIsMissing", { wanted }), words[0]);
    return this.fault(
      message("audience.isNotUnderstoodHereWould", { text: token.text, wanted }),
      words.find((word) => isOneSlip(word, token.text.toLowerCase())),
    );
  }

  protected nameWanted(sentence: Message, ...words: string[]): Fault {
    const token = this.#tokens[this.#next];
    const near =
      token === undefined
        ? undefined
        : words.find((word) => isOneSlip(word, token.text.toLowerCase()));
    return this.fault(sentence, near ?? (token?.kind === "word" ? `"${token.text}"` : undefined));
  }

  protected nearest(text: string): string | undefined {
    for (const expected of this.#expected)
      if ("word" in expected && isOneSlip(expected.word, text.toLowerCase())) return expected.word;
    return undefined;
  }

  protected fault(sentence: Message, proposal?: string): Fault {
    const token = this.#tokens[this.#next];
    return new Fault({ at: this.at(), length: token?.length ?? 0, sentence, proposal });
  }
}
