import type { Message } from "@amigo/language/message";
import type { Question, SettledByHand, SettledFact } from "../question";

interface ValueQuestion extends Omit<Question, "choices"> {
  choices: { id: string; label: Message | string; settle: SettledFact }[];
}

/** A question about a value, unless one of just these choices was made before. */
export function question(
  { choices, ...rest }: ValueQuestion,
  settled: readonly SettledByHand[],
): Question[] {
  const isMade = settled.some((made) => made.key === rest.key);
  return isMade
    ? []
    : [
        {
          ...rest,
          choices: choices.map(({ settle, ...choice }) => ({
            ...choice,
            answer: { does: "settle", settled: settle },
          })),
        },
      ];
}
