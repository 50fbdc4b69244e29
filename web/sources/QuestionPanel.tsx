import { say } from "@amigo/language/say";
import { useEffect, useId, useRef, type KeyboardEvent } from "react";
import type { ShownQuestion } from "@amigo/core/sheet/columns/answerEffects";
import { Panel } from "../ui/Page";
import { t } from "../texts/sources";

/**
 * One question about columns at a time: its answers with sample cells and what follows. The first answer is how Amigo would
 * read it. One click, or the number of an answer, answers.
 */
export function QuestionPanel({
  question,
  more,
  busy,
  onAnswer,
}: {
  question: ShownQuestion;
  /** How many more questions there are after this one. */
  more: number;
  busy: boolean;
  onAnswer: (sets: ShownQuestion["answers"][number]["sets"]) => void;
}) {
  const id = useId();
  const group = useRef<HTMLDivElement>(null);
  const { about, answers } = question;
  const asked = say(about);
  // The next question takes the focus of the one before, so that answers can be typed one after the other.
  useEffect(() => {
    group.current?.querySelector("button")?.focus({ preventScroll: true });
  }, [asked]);
  const answer = (at: number): void => {
    const foundAnswer = answers[at];
    if (foundAnswer !== undefined && !busy) onAnswer(foundAnswer.sets);
  };
  const typed = (event: KeyboardEvent): void => {
    const at = Number(event.key) - 1;
    if (answers[at] === undefined) return;
    event.preventDefault();
    answer(at);
  };
  return (
    <Panel className="px-4 py-3.5">
      <h2 id={`${id}-about`} className="wrap-anywhere">
        {asked}
      </h2>
      <p className="mt-1 text-[13px] text-ink-2">{t("sources.amigoIsntSure", { more })}</p>
      <div
        ref={group}
        role="group"
        aria-labelledby={`${id}-about`}
        onKeyDown={typed}
        className="mt-2.5 flex flex-col gap-2"
      >
        {answers.map(({ label, values, effect }, at) => (
          <button
            key={at}
            type="button"
            aria-disabled={busy}
            onClick={() => answer(at)}
            className="block rounded-md border border-hair bg-panel px-3 py-2 text-left hover:border-petrol focus:border-petrol focus:bg-petrol-soft"
          >
            <span className="flex items-baseline gap-2">
              <b className="min-w-0 flex-1 font-[620] wrap-anywhere">{say(label)}</b>
              <kbd aria-hidden="true">{at + 1}</kbd>
            </span>
            {values !== undefined && (
              <span className="block text-[13px] wrap-anywhere text-ink-2">{say(values)}</span>
            )}
            <span className="block text-[13px] text-ink-3">{say(effect)}</span>
          </button>
        ))}
      </div>
      <p className="mt-2.5 text-[13px] text-ink-3">{t("sources.clickAnAnswerOrPress")}</p>
    </Panel>
  );
}
