import { fold } from "../../text/fold";
import { isTie } from "../columns/tie";
import { lexicon, lookUp, type Lexicon } from "../lexicon/lexicon";

/** Whom a row is about, where each row is one person. An adult can be a parent, or a grown-up member of a club. */
export type KindOfPerson = "child" | "parent" | "adult" | "staff";

/** What is longer than this isn't a word for somebody. */
const LONGEST = 30;
const PARENT: ReadonlySet<string> = new Set(["guardian", "mother", "father"]);
/** Words for somebody grown up, folded, without their endings. */
const GROWN_UP =
  /^(?:adult|senior|grown ?up|erwachsen|volwassen|vuxen|vuxna|voksen|voksne|aikui|doros|dospel|yetiskin)/u;

/**
 * Returns whether a cell such as `Child`, `Pupil`, `Parent`, `Mother`, `Adult` stands for a child, a parent, somebody grown up or
 * on the staff; undefined where it says none of that.
 */
export function kindOfPerson(cell: string, of: Lexicon = lexicon()): KindOfPerson | undefined {
  const text = fold(cell.slice(0, LONGEST + 1));
  if (text === "" || text.length > LONGEST || cell.includes("@") || /\d/.test(text))
    return undefined;
  if (isTie(text)) return "parent";
  const words = text.split(" ");
  const isGrownUp = words.some((word) => GROWN_UP.test(word));
  for (let at = 0; at < words.length; at++) {
    const found = lookUp(words, at, { of });
    if (found === undefined || found.sureness < 0.9) continue;
    const concepts = found.senses.map(({ concept }) => concept);
    if (concepts.some((concept) => PARENT.has(concept))) return isGrownUp ? "adult" : "parent";
    if (concepts.includes("student") && !isGrownUp) return "child";
    if (concepts.includes("staff") && !isGrownUp) return "staff";
  }
  return isGrownUp ? "adult" : undefined;
}

/** Fewer of either kind than this share is no sheet of children and adults. */
const LEAST = 0.1;

/** How a column's cells say of whom the rows are. Shares run from 0 to 1. */
export interface KindShares {
  /** Share of the cells that say it; 0 where they speak of children alone, or of adults alone. */
  kinds: number;
  /** Share of the cells that speak of parents. */
  parents: number;
}

/** Says how well the filled cells of a column tell children from adults. */
export function kindShares(cells: readonly string[], of: Lexicon = lexicon()): KindShares {
  const kinds = cells.map((cell) => kindOfPerson(cell, of));
  const share = (...wanted: (KindOfPerson | undefined)[]): number =>
    cells.length < 2 ? 0 : kinds.filter((kind) => wanted.includes(kind)).length / cells.length;
  const [children, adults] = [share("child"), share("parent", "adult")];
  return children < LEAST || adults < LEAST
    ? { kinds: 0, parents: 0 }
    : { kinds: children + adults, parents: share("parent") };
}
