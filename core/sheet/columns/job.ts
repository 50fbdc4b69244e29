import { fold } from "../../text/fold";
import { lookUp, type Lexicon } from "../lexicon/lexicon";
import { isTitledName } from "./titledName";

/** What is longer than this isn't a job. */
const LONGEST = 40;

/** Whether a cell says what somebody's job is: `Head coach`, `Lehrerin`; not who has it: `Coach Hale`. */
export function isJob(cell: string, of: Lexicon): boolean {
  if (cell.length > LONGEST || /[@\d]/.test(cell) || isTitledName(cell)) return false;
  const words = fold(cell).split(" ");
  return words.some((_, at) => {
    const found = lookUp(words, at, { of });
    return found?.sureness === 1 && found.senses.some(({ concept }) => concept === "staff");
  });
}
