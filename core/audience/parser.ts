import { TokenWalk, Fault } from "./tokenWalk";
import { message } from "@amigo/language/message";
import type {
  Audience,
  AudienceFault,
  Comparison,
  Condition,
  Expected,
  Spot,
  SpotKind,
  Test,
  Who,
} from "./audience";

const GROUPS: readonly Who[] = ["students", "coaches", "leads", "staff"];
/** What may stand before a group and says nothing: `all students`, `the parents of`. */
const FILLERS = ["all", "the"] as const;
const KINDS: readonly SpotKind[] = ["class", "team", "committee", "site", "level", "season"];
const PLACES = ["in", "of", "at"] as const;
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

/** Reads an audience or a condition, one rule of the language a method. */
export class Parser extends TokenWalk {
  #depth = 0;

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
      return { ok: true, value, expected: parser.expectedAtEnd(), openName: parser.openName };
    } catch (failure) {
      if (failure instanceof Fault)
        return {
          ok: false,
          fault: failure.fault,
          expected: parser.expectedAtEnd(),
          openName: parser.openName,
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
}
