import { useState } from "react";
import type { ShelfComment } from "@amigo/contract/shelf";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";
import { moment } from "../ui/time";

/** What is done with comments: each returns what went wrong, if anything did. */
export interface CommentActions {
  say: (text: string, follow: boolean) => Promise<{ error?: unknown }>;
  takeOut: (comment: string) => Promise<{ error?: unknown }>;
  follow: (follows: boolean) => Promise<{ error?: unknown }>;
}

/** What is said about a thing, in order, with a field to say something where somebody may. */
export function Comments({
  comments,
  follows,
  maySay,
  timeZone,
  actions,
}: {
  comments: readonly ShelfComment[];
  follows: boolean;
  maySay: boolean;
  timeZone: string;
  actions: CommentActions;
}) {
  const [error, setError] = useState<unknown>();
  const doing = async (action: Promise<{ error?: unknown }>): Promise<boolean> => {
    const answer = await action;
    setError(answer.error);
    return answer.error === undefined;
  };
  return (
    <section aria-label={t("shelf.comments")}>
      <h3 className="text-[13px] text-ink-2">{t("shelf.comments")}</h3>
      {comments.length === 0 && !maySay && <p className="text-[13px]">{t("shelf.noComments")}</p>}
      <ul>
        {comments.map(({ id, name, at, text, takenOutBy, mayTakeOut }) => (
          <li key={id} className="border-t border-hair-soft py-1.5 text-[13px]">
            <span className="flex flex-wrap items-baseline gap-x-2">
              <b className="font-[620]">{name}</b>
              <span className="flex-1 text-ink-2">{moment(at, timeZone)}</span>
              {mayTakeOut && (
                <button
                  type="button"
                  onClick={() => void doing(actions.takeOut(id))}
                  className="rounded px-1 text-petrol underline underline-offset-2"
                >
                  {t("shelf.takeOut")}
                  <span className="sr-only"> {t("shelf.whatNameSaid", { name })}</span>
                </button>
              )}
            </span>
            {takenOutBy === "" ? (
              <span className="block whitespace-pre-wrap wrap-anywhere">{text}</span>
            ) : (
              <i className="block text-ink-2">{t("shelf.takenOutBy", { name: takenOutBy })}</i>
            )}
          </li>
        ))}
      </ul>
      <FaultLine error={error} />
      {maySay && <Say follows={follows} onSay={(...said) => doing(actions.say(...said))} />}
      {follows && (
        <p className="mt-1.5 text-[13px]">
          {t("shelf.youAreTold")}{" "}
          <button
            type="button"
            onClick={() => void doing(actions.follow(false))}
            className="text-petrol underline underline-offset-2"
          >
            {t("shelf.stopTelling")}
          </button>
        </p>
      )}
    </section>
  );
}

function Say({
  follows,
  onSay,
}: {
  follows: boolean;
  onSay: (text: string, follow: boolean) => Promise<boolean>;
}) {
  const [text, setText] = useState("");
  const [follow, setFollow] = useState(true);
  const [isSaying, setSaying] = useState(false);
  const say = async (): Promise<void> => {
    setSaying(true);
    if (await onSay(text, follow && !follows)) setText("");
    setSaying(false);
  };
  return (
    <form
      className="mt-1.5 border-t border-hair-soft pt-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        void say();
      }}
    >
      <label className="block text-[13px] font-[560]">
        {t("shelf.yourComment")}
        <textarea
          rows={2}
          maxLength={5000}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 font-normal"
        />
      </label>
      <div className="mt-1.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        <Button type="submit" disabled={isSaying || text.trim() === ""}>
          {t("shelf.addComment")}
        </Button>
        {!follows && (
          <label className="flex items-center gap-1.5 text-[13px]">
            <input
              type="checkbox"
              checked={follow}
              onChange={(event) => setFollow(event.target.checked)}
            />
            {t("shelf.tellMe")}
          </label>
        )}
        <span className="text-[13px] text-ink-2">{t("shelf.othersSeeYourName")}</span>
      </div>
    </form>
  );
}
