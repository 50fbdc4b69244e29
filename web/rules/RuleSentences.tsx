import { ruleSentences } from "@amigo/core/posting/ruleSentences";
import type { RuleId, Rules } from "@amigo/core/posting/rules/rule";
import { sayParts } from "@amigo/language/say";

/** The rules of a list read as sentences, with what is settled in them marked, and the note beside each. */
export function RuleSentences({
  rules,
  notes,
}: {
  rules: Rules;
  notes: readonly { rule: RuleId; sentence: string }[];
}) {
  return ruleSentences(rules)
    .map(sayParts)
    .map((pieces) => {
      const places = pieces.flatMap(({ place }) => place ?? []);
      return (
        <div key={places.join(" ")} className="border-t border-hair-soft py-1.5 leading-normal">
          <p>
            {pieces.map(({ text, place }, part) =>
              place === undefined ? (
                <span key={part}>{text}</span>
              ) : (
                <b key={part} className="font-[650]">
                  {text}
                </b>
              ),
            )}
          </p>
          {notes
            .filter(({ rule }) => places.includes(rule))
            .map((note) => (
              <p key={note.sentence} className="text-[13px] text-ink-2">
                {note.sentence}
              </p>
            ))}
        </div>
      );
    });
}
