import type { Concept } from "../lexicon/language";
import type { Found, Sense } from "../lexicon/lexicon";
import { weighSenses } from "./weighSenses";
import type { Whose, TitleReading, Languages } from "./titleReading";

/** What the words of a title have said so far: whose column it is, what it holds, and which of several. */
export class HeardInTitle {
  readonly which = new Set<string>();
  private readonly whose = new Map<Whose, number>();
  private readonly what = new Map<Concept, number>();
  private self = 0;
  /** Where a word for class or team, and one for a teacher, stand last; and whether the last word counts. */
  private readonly heads = { group: -1, staff: -1, last: true };

  constructor(private readonly languages: Languages) {}

  /** Takes what a word or phrase can mean that ends before `at`. */
  hear({ senses, sureness }: Found, at: number): void {
    for (const [concept, weight] of weighSenses(senses, sureness, this.languages)) {
      if (weight > 0.5) this.placeHead(concept, senses, at);
      const who = WHOSE[concept];
      const slot = WHICH[concept];
      if (concept === "self") this.self = Math.max(this.self, weight);
      else if (who !== undefined) raise(this.whose, who, weight);
      if (slot !== undefined && weight > 0.5) this.which.add(slot);
      if (who === undefined && slot === undefined) raise(this.what, concept, weight);
    }
  }

  /** Returns what all of it comes to, with the order in which the title names both parts of a name. */
  settle(order: TitleReading["order"]): Pick<TitleReading, "whose" | "what" | "slot"> {
    const { heads, whose, what, which } = this;
    // A tutor group is a group, a class teacher a teacher: the last word says which, or in some languages the first.
    if (heads.group >= 0 && heads.staff >= 0 && heads.group !== heads.staff)
      if (heads.group > heads.staff === heads.last) whose.delete("staff");
    if (this.self > 0 && whose.size === 0) whose.set("guardian", 0.85 * this.self);
    // "Surname and first name" is a whole name; so is "Nom et prénom", whatever "nom" alone would be.
    if (order !== "") {
      what.delete("given");
      what.delete("surname");
      what.set("name", 1);
    }
    return {
      whose: loudestWhose(whose),
      what: loudestWhat(what),
      slot: which.size === 1 ? ([...which][0] ?? "") : specificSlot(which),
    };
  }

  private placeHead(concept: Concept, senses: readonly Sense[], at: number): void {
    if (concept === "staff") this.heads.staff = at;
    if (concept !== "class" && concept !== "team") return;
    this.heads.group = at;
    this.heads.last = !senses.some(
      ({ language }) => HEAD_FIRST.has(language) && (this.languages.get(language) ?? 0) >= 1,
    );
  }
}

function raise<Key>(weights: Map<Key, number>, key: Key, weight: number): void {
  weights.set(key, Math.max(weights.get(key) ?? 0, weight));
}

/** Of "mother 1" the number counts; of "mother or father" neither does. */
function specificSlot(which: ReadonlySet<string>): string {
  const numbers = [...which].filter((slot) => /^\d$/.test(slot));
  return numbers.length === 1 ? (numbers[0] ?? "") : "";
}

/** A parent's of a student is a parent's; a child's teacher is a teacher. */
function loudestWhose(whose: ReadonlyMap<Whose, number>): Map<Whose, number> {
  for (const loud of ["other", "staff", "emergency", "guardian", "student", "household"] as const) {
    const weight = whose.get(loud) ?? 0;
    if (weight > 0.4) return new Map([[loud, weight]]);
  }
  return new Map(whose);
}

function loudestWhat(what: ReadonlyMap<Concept, number>): Map<Concept, number> {
  const heard = new Map<Concept, number>();
  let louder = false;
  for (const tier of LOUDNESS) {
    let loudest = 0;
    for (const concept of tier) {
      const weight = what.get(concept) ?? 0;
      if (weight === 0) continue;
      heard.set(concept, weight * (louder ? SECOND : 1));
      loudest = Math.max(loudest, weight);
    }
    if (loudest > 0.6) louder = true;
  }
  return heard;
}

export const WHOSE: Partial<Record<Concept, Whose>> = {
  student: "student",
  guardian: "guardian",
  mother: "guardian",
  father: "guardian",
  self: "guardian",
  household: "household",
  staff: "staff",
  emergency: "emergency",
  doctor: "other",
  sibling: "other",
};

export const WHICH: Partial<Record<Concept, string>> = {
  first: "1",
  second: "2",
  third: "3",
  fourth: "4",
  fifth: "5",
  mother: "mother",
  father: "father",
};

/** What speaks loudest in a title, loudest first: a "class teacher email" is an email. */
export const LOUDNESS: readonly (readonly Concept[])[] = [
  ["health", "consent", "private", "money"],
  ["phone", "birth", "submitted", "relation", "season", "gender"],
  ["email"],
  ["street", "postcode", "notes"],
  ["nickname", "prefix"],
  ["surname", "given"],
  ["number"],
  ["level"],
  ["class", "team"],
  ["address", "town", "site"],
  ["counter", "job"],
  ["name"],
];

/** Languages whose main word comes first: "profesor de la clase". */
export const HEAD_FIRST = new Set(["fr", "es", "pt", "it", "pl", "cs"]);

export const SECOND = 0.35;
