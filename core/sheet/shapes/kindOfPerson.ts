import { fold } from "../../text/fold";
import { isTie } from "../columns/tie";
import { lexicon, lookUp, type Lexicon } from "../lexicon/lexicon";

/** Whom a row is about, where each row is one person. */
export type KindOfPerson = "child" | "adult";

/** What is longer than this isn't a word for somebody. */
const LONGEST = 30;
const ADULT: ReadonlySet<string> = new Set(["guardian", "mother", "father", "staff"]);

/**
 * Returns whether a cell such as `Child`, `Pupil`, `Parent`, `Mother`, `Main contact` stands for a child or an adult; undefined
 * where it says neither.
 */
export function kindOfPerson(cell: string, of: Lexicon = lexicon()): KindOfPerson | undefined {
  const text = fold(cell.slice(0, LONGEST + 1));
  if (text === "" || text.length > LONGEST || cell.includes("@") || /\d/.test(text))
    return undefined;
  if (isTie(text)) return "adult";
  const words = text.split(" ");
  for (let at = 0; at < words.length; at++) {
    const found = lookUp(words, at, { of });
    if (found === undefined || found.sureness < 0.9) continue;
    const concepts = found.senses.map(({ concept }) => concept);
    if (concepts.some((concept) => ADULT.has(concept))) return "adult";
    if (concepts.includes("student")) return "child";
  }
  return undefined;
}

/** Fewer of either kind than this share is no sheet of children and adults. */
const LEAST = 0.1;

/** Returns the share of cells that say of whom a row is; 0 where they speak of children or of adults alone. */
export function kindShare(cells: readonly string[], of: Lexicon = lexicon()): number {
  const kinds = cells.map((cell) => kindOfPerson(cell, of));
  const share = (wanted: KindOfPerson): number =>
    kinds.filter((kind) => kind === wanted).length / kinds.length;
  const [children, adults] = [share("child"), share("adult")];
  return cells.length > 1 && children >= LEAST && adults >= LEAST ? children + adults : 0;
}
