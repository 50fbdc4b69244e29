import { ruleSentences } from "@amigo/core/posting/ruleSentences";
import type { RuleId, Rules } from "@amigo/core/posting/rules/rule";

/** The rules of a list read as sentences, with what is settled in them marked, and what is to be said beside each. */
export function RuleSentences({
  rules,
  notes,
}: {
  rules: Rules;
  notes: readonly { rule: RuleId; sentence: string }[];
}) {
  return ruleSentences(rules).map((sentence) => {
    const ids = sentence.flatMap(({ rule }) => (rule === undefined ? [] : [rule]));
    return (
      <div key={ids.join(" ")} className="border-t border-hair-soft py-1.5 leading-normal">
        <p>
          {sentence.map(({ text, rule }, part) =>
            rule === undefined ? (
              <span key={part}>{text}</span>
            ) : (
              <b key={part} className="font-[650]">
                {text}
              </b>
            ),
          )}
        </p>
        {notes
          .filter(({ rule }) => ids.includes(rule))
          .map((note) => (
            <p key={note.sentence} className="text-[13px] text-ink-2">
              {note.sentence}
            </p>
          ))}
      </div>
    );
  });
}
