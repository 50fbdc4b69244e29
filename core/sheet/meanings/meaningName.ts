import { message, type Message } from "@amigo/language/message";
import { meaningOf } from "./allMeanings";
import type { MeaningId } from "./meaning";

/** Returns what people read for a meaning and its slot: `Guardian 2, address`, or `Guardian 2 address` in a sentence. */
export function meaningName(
  { meaning, slot }: { meaning: MeaningId; slot: number },
  as: "a label" | "in a sentence" = "a label",
): Message {
  const { label, part } = meaningOf(meaning);
  return message(as === "a label" ? "sheet.meaningName" : "sheet.meaningInSentence", {
    label,
    slot,
    part,
  });
}
