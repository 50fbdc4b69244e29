import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import type { ShownQuestion } from "@amigo/core/sheet/columns/answerEffects";
import { counted } from "@amigo/core/text/sentence";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";

/**
 * One question about columns at a time: its answers with sample cells and what follows. The first answer is how Amigo would
 * read it. A number chooses, Enter answers.
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
  const [chosen, setChosen] = useState(0);
  const id = useId();
  const group = useRef<HTMLDivElement>(null);
  const { about, answers } = question;
  // The next question takes the focus of the one before, so that answers can be typed one after the other.
  useEffect(() => {
    group.current?.querySelector<HTMLInputElement>("input")?.focus({ preventScroll: true });
  }, [about]);
  const answer = (): void => {
    const own = answers[chosen];
    if (own !== undefined && !busy) onAnswer(own.sets);
  };
  const typed = (event: KeyboardEvent): void => {
    const at = Number(event.key) - 1;
    if (answers[at] !== undefined) setChosen(at);
    else if (event.key === "Enter" && !(event.target instanceof HTMLButtonElement)) answer();
    else return;
    event.preventDefault();
  };
  return (
    <Panel className="px-4 py-3.5">
      <h2 id={`${id}-about`} className="wrap-anywhere">
        {about}
      </h2>
      <p className="mt-1 text-[13px] text-ink-2">
        Amigo isn't sure.{" "}
        {more > 0
          ? `${counted(more, "more question")} after this one.`
          : "The answer is remembered for this source."}
      </p>
      <div
        ref={group}
        role="radiogroup"
        aria-labelledby={`${id}-about`}
        onKeyDown={typed}
        className="mt-2.5 flex flex-col gap-2"
      >
        {answers.map(({ label, values, effect }, at) => (
          <label
            key={at}
            className={`block cursor-pointer rounded-md border px-3 py-2 hover:border-petrol has-focus-visible:outline-2 has-focus-visible:outline-petrol ${chosen === at ? "border-petrol bg-petrol-soft" : "border-hair bg-panel"}`}
          >
            <span className="flex items-baseline gap-2">
              <input
                type="radio"
                name={id}
                className="accent-petrol"
                checked={chosen === at}
                onChange={() => setChosen(at)}
              />
              <b className="min-w-0 flex-1 font-[620] wrap-anywhere">{label}</b>
              <kbd aria-hidden="true">{at + 1}</kbd>
            </span>
            {values !== "" && (
              <span className="block text-[13px] wrap-anywhere text-ink-2">{values}</span>
            )}
            <span className="block text-[13px] text-ink-3">{effect}</span>
          </label>
        ))}
      </div>
      <div className="mt-2.5 flex flex-wrap items-center gap-2">
        <Button look="go" disabled={busy} onClick={answer}>
          Answer <kbd>↵</kbd>
        </Button>
        <span className="text-[13px] text-ink-3">or choose above the columns</span>
      </div>
    </Panel>
  );
}
