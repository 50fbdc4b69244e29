import { each, message, type Message } from "@amigo/language/message";
import { isOneSlip } from "../text/slip";
import type {
  Audience,
  AudienceFault,
  Comparison,
  Condition,
  Expected,
  NameKind,
  Spot,
  SpotKind,
  Test,
  Who,
} from "./audience";
import { tokens, type Token } from "./tokens";

/** A fault on the way through a text; caught where the parsing began. */
class Fault extends Error {
  constructor(readonly fault: AudienceFault) {
    super("the audience is not understood");
  }
}

const GROUPS: readonly Who[] = ["students", "coaches", "leads", "staff"];
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
/** What may stand before a group and says nothing: `all students`, `the parents of`. */
const FILLERS = ["all", "the"] as const;
const KINDS: readonly SpotKind[] = ["class", "team", "committee", "site", "level", "season"];
const PLACES = ["in", "of", "at"] as const;
/** Words that end a name written without quotes. A name that holds one of them needs its quotes. */
const ENDS_NAME: ReadonlySet<string> = new Set([...PLACES, "except", "without", "where", "such"]);
/** What can follow a comparison sign, and how each is meant. */
const SIGNS: Record<string, Comparison> = {
  "=": "is",
  "<>": "is not",
  "<": "<",
  "<=": "<=",
  ">": ">",
  ">=": ">=",
};
/** How long an audience may be, in signs: far longer than anybody writes one. */
export const LONGEST = 8_000;
const DEEPEST = 40;

/** Walks through the tokens of one text. What could have stood at the furthest place is remembered for completing. */
export class Parser {
  readonly #text: string;
  readonly #tokens: Token[];
  #next = 0;
  #depth = 0;
  #expected: Expected[] = [];
  #expectedAt = 0;
  /** Where a name without quotes begins that goes on to the end of the text. */
  #openName: number | undefined;

  constructor(text: string) {
    this.#text = text;
    this.#tokens = tokens(text);
  }

  /** Runs one rule over the whole text. */
  static run<Out>(
    text: string,
    rule: (parser: Parser) => Out,
  ):
    | { ok: true; value: Out; expected: Expected[]; openName: number | undefined }
    | { ok: false; fault: AudienceFault; expected: Expected[]; openName: number | undefined } {
    if (text.length > LONGEST)
      return {
        ok: false,
        fault: {
          at: LONGEST,
          length: 0,
          sentence: message("audience.anAudienceMayHaveCharacters", { most: LONGEST }),
          proposal: undefined,
        },
        expected: [],
        openName: undefined,
      };
    const parser = new Parser(text);
    try {
      const value = rule(parser);
      parser.end();
      return { ok: true, value, expected: parser.expectedAtEnd(), openName: parser.#openName };
    } catch (failure) {
      if (failure instanceof Fault)
        return {
          ok: false,
          fault: failure.fault,
          expected: parser.expectedAtEnd(),
          openName: parser.#openName,
        };
      throw failure;
    }
  }

  audience(): Audience {
    if (++this.#depth > DEEPEST) throw this.fault(message("audience.bracketsStandTooDeepHere"));
    let left = this.union();
    while (this.word("except") !== undefined || this.also("without"))
      left = { op: "except", left, right: this.union() };
    this.#depth--;
    return left;
  }

  condition(): Condition {
    let left = this.tests();
    while (this.word("or") !== undefined) left = { op: "or", left, right: this.tests() };
    return left;
  }

  private union(): Audience {
    let left = this.both();
    while (this.sign("+") !== undefined) left = { op: "union", left, right: this.both() };
    return left;
  }

  private both(): Audience {
    let left = this.term();
    while (this.sign("&") !== undefined) left = { op: "both", left, right: this.term() };
    return left;
  }

  private term(): Audience {
    const at = this.at();
    if (this.sign("(") !== undefined) return this.bracketed();
    while (this.also(...FILLERS)) continue;
    if (this.word("guardians", "parents") !== undefined || this.alsoFor("guardians"))
      return { op: "guardians", at, of: this.guarded() };
    if (this.word("everyone") !== undefined || this.alsoFor("everyone")) return this.everyone(at);
    const who = this.word(...GROUPS) ?? GROUPS.find((candidate) => this.alsoFor(candidate));
    if (who !== undefined) return this.group(at, who);
    const name = this.name("person") ?? this.personWithoutQuotes();
    if (name !== undefined) return { op: "person", at, name, hint: this.hint() };
    throw this.wanted("students", "guardians", "coaches", "leads", "staff", "everyone", "(");
  }

  /** Students, their guardians and their coaches, of one place or of the whole house, where all of the staff come with them. */
  private everyone(at: number): Audience {
    const spots = this.spots();
    const students: Audience = { op: "group", at, who: "students", spots, where: undefined };
    const families: Audience = {
      op: "union",
      left: students,
      right: { op: "guardians", at, of: students },
    };
    const who = spots.length === 0 ? "staff" : "coaches";
    return {
      op: "union",
      left: families,
      right: { op: "group", at, who, spots, where: undefined },
    };
  }

  /**
   * After `guardians`: of all students; `in` or `at` a place; or after `of` students, students in a place written short,
   * one student by name, or a bracket.
   */
  private guarded(): Audience {
    const at = this.at();
    if (this.word("of") === undefined) return this.group(at, "students");
    while (this.also(...FILLERS)) continue;
    if (this.sign("(") !== undefined) return this.bracketed();
    if (this.word("students") !== undefined || this.alsoFor("students"))
      return this.group(at, "students");
    // `guardians of "Trapeze Two"`: a name here is a class before it is a person; the check tells what is neither.
    const spot = this.spot();
    if (spot !== undefined)
      return {
        op: "group",
        at,
        who: "students",
        spots: [spot, ...this.spots()],
        where: this.where(),
      };
    throw this.wanted("students", "this");
  }

  private group(at: number, who: Who): Audience {
    return { op: "group", at, who, spots: this.spots(), where: this.where() };
  }

  private bracketed(): Audience {
    const inner = this.audience();
    if (this.sign(")") === undefined) throw this.wanted(")");
    return inner;
  }

  private spots(): Spot[] {
    const spots: Spot[] = [];
    while (this.word(...PLACES) !== undefined) {
      const spot = this.spot();
      if (spot === undefined)
        throw this.nameWanted(message("audience.theNameOfAClass"), "this", ...KINDS);
      spots.push(spot);
    }
    return spots;
  }

  private spot(): Spot | undefined {
    while (this.also(...FILLERS)) continue;
    const at = this.at();
    if (this.word("this") !== undefined) {
      const kind = this.word(...KINDS);
      if (kind === undefined) throw this.wanted(...KINDS);
      return { at, kind, name: undefined };
    }
    const kind = this.word(...KINDS);
    const name =
      this.name(kind ?? "cohort or site") ??
      (kind === "level" || kind === "season" ? this.plain() : undefined);
    if (name !== undefined) return { at, kind, name };
    const plain = this.nameWithoutQuotes();
    if (plain !== undefined) return { at, kind, ...plain };
    if (kind !== undefined) throw this.nameWanted(message("audience.theNameOfABelongs", { kind }));
    return undefined;
  }

  private where(): Condition | undefined {
    if (this.word("where") !== undefined) return this.condition();
    if (this.word("such") === undefined) return undefined;
    if (this.word("that") === undefined) throw this.wanted("that");
    return this.condition();
  }

  private tests(): Condition {
    let left: Condition = this.test();
    while (this.word("and") !== undefined) left = { op: "and", left, right: this.test() };
    return left;
  }

  private test(): Test {
    const at = this.at();
    const column = this.name("column") ?? this.plain();
    if (column === undefined) throw this.nameWanted(message("audience.theNameOfAColumn"));
    const comparison = this.comparison();
    const values = [this.value(column)];
    if (comparison === "is one of")
      while (this.sign(",") !== undefined) values.push(this.value(column));
    return { op: "test", at, column, comparison, values };
  }

  private comparison(): Comparison {
    const sign = this.sign("=", "<>", "<", "<=", ">", ">=");
    if (sign !== undefined) return SIGNS[sign] ?? "is";
    if (this.word("contains") !== undefined) return "contains";
    if (this.word("is") === undefined) throw this.wanted("is", "=", "<", ">", "contains");
    if (this.word("not") !== undefined) return "is not";
    if (this.word("one") === undefined) return "is";
    if (this.word("of") === undefined) throw this.wanted("of");
    return "is one of";
  }

  private value(column: string): string {
    const value = this.name("value", column) ?? this.plain();
    if (value === undefined) throw this.nameWanted(message("audience.theValueToCompareWith"));
    return value;
  }

  /** What tells people of one name apart: `"Ida Berg" (CW-1023)`. */
  private hint(): string {
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

  private at(): number {
    return this.#tokens[this.#next]?.at ?? this.#text.length;
  }

  private expect(...expected: Expected[]): void {
    if (this.#next > this.#expectedAt) {
      this.#expected = [];
      this.#expectedAt = this.#next;
    }
    if (this.#next === this.#expectedAt) this.#expected.push(...expected);
  }

  private word<Word extends string>(...words: Word[]): Word | undefined {
    this.expect(...words.map((word) => ({ word })));
    const token = this.#tokens[this.#next];
    const found =
      token?.kind === "word" ? words.find((word) => word === token.text.toLowerCase()) : undefined;
    if (found !== undefined) this.#next++;
    return found;
  }

  private sign(...signs: string[]): string | undefined {
    this.expect(...signs.map((word) => ({ word })));
    const token = this.#tokens[this.#next];
    const found = token?.kind === "sign" ? signs.find((sign) => sign === token.text) : undefined;
    if (found !== undefined) this.#next++;
    return found;
  }

  private name(name: NameKind, column?: string): string | undefined {
    this.expect(column === undefined ? { name } : { name, column });
    const token = this.#tokens[this.#next];
    if (token?.kind === "open name")
      throw this.fault(message("audience.theClosingQuoteIsMissing"), `"${token.text}"`);
    if (token?.kind !== "name" || token.text.trim() === "") return undefined;
    this.#next++;
    return token.text;
  }

  /** Takes a word that is understood, but never proposed. */
  private also(...words: string[]): boolean {
    const token = this.#tokens[this.#next];
    if (token?.kind !== "word" || !words.includes(token.text.toLowerCase())) return false;
    this.#next++;
    return true;
  }

  private alsoFor(word: string): boolean {
    const token = this.#tokens[this.#next];
    return (
      token?.kind === "word" &&
      Object.hasOwn(ALSO, token.text.toLowerCase()) &&
      ALSO[token.text.toLowerCase()] === word &&
      this.also(token.text.toLowerCase())
    );
  }

  /** Words up to the next sign, quote or word of the language; what they name, and where they end. */
  private nameWithoutQuotes(): { name: string; until: number } | undefined {
    const first = this.#tokens[this.#next];
    let last: Token | undefined;
    while (this.#next < this.#tokens.length) {
      const token = this.#tokens[this.#next];
      if (token?.kind !== "word" || ENDS_NAME.has(token.text.toLowerCase())) break;
      last = token;
      this.#next++;
    }
    if (first === undefined || last === undefined) return undefined;
    if (this.#next === this.#tokens.length) this.#openName = first.at;
    const until = last.at + last.length;
    return { name: this.#text.slice(first.at, until).replace(/\s+/g, " "), until };
  }

  /** A person's name of two words or more: one word alone is rather a slip in a word of the language. */
  private personWithoutQuotes(): string | undefined {
    const [first, second] = [this.#tokens[this.#next], this.#tokens[this.#next + 1]];
    const isWord = (token: Token | undefined): boolean =>
      token?.kind === "word" && !ENDS_NAME.has(token.text.toLowerCase());
    return isWord(first) && isWord(second) ? this.nameWithoutQuotes()?.name : undefined;
  }

  private plain(): string | undefined {
    const token = this.#tokens[this.#next];
    if (token?.kind !== "word") return undefined;
    this.#next++;
    return token.text;
  }

  private wanted(...words: string[]): Fault {
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

  private nameWanted(sentence: Message, ...words: string[]): Fault {
    const token = this.#tokens[this.#next];
    const near =
      token === undefined
        ? undefined
        : words.find((word) => isOneSlip(word, token.text.toLowerCase()));
    return this.fault(sentence, near ?? (token?.kind === "word" ? `"${token.text}"` : undefined));
  }

  private nearest(text: string): string | undefined {
    for (const expected of this.#expected)
      if ("word" in expected && isOneSlip(expected.word, text.toLowerCase())) return expected.word;
    return undefined;
  }

  private fault(sentence: Message, proposal?: string): Fault {
    const token = this.#tokens[this.#next];
    return new Fault({ at: this.at(), length: token?.length ?? 0, sentence, proposal });
  }
}
