import { useState } from "react";
import type { EditPlan } from "@amigo/contract/edits";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Minus, Plus } from "../ui/Signs";

const WORDS = {
  made: "made",
  opened: t("ui.openedAgain"),
  closed: "closed",
  renamed: "renamed",
  changed: "changed",
} as const;
const SHOWN = 8;

/** What becomes of each list: made, opened, closed, renamed or changed, with whom it gains and loses. */
export function ListDeltas({ lists }: { lists: EditPlan["lists"] }) {
  return (["made", "opened", "closed", "renamed", "changed"] as const).map((what) => {
    const foundLists = lists.filter((list) => list.what === what);
    return foundLists.length === 0 ? null : (
      <Group
        key={what}
        title={t("ui.lists2", { count: foundLists.length, what: WORDS[what] })}
        lists={foundLists}
      />
    );
  });
}

function Group({ title, lists }: { title: string; lists: EditPlan["lists"] }) {
  const [all, setAll] = useState(false);
  return (
    <section aria-label={title}>
      <h2 className="mb-1">{title}</h2>
      <ul className="max-h-72 overflow-auto">
        {(all ? lists : lists.slice(0, SHOWN)).map(
          ({ key, title: name, what, before, after, points, breaks, joins, leaves }) => (
            <li key={key} className="flex items-baseline gap-3 border-t border-hair-soft py-1.5">
              <b className="w-52 shrink-0 truncate font-[620]">{name}</b>
              <span className="min-w-0 flex-1 text-[13px] text-ink-2">
                {what === "renamed" ? (
                  <span className="mono">
                    {before} <span aria-label={t("ui.becomes")}>→</span>{" "}
                    <b className="font-[640] text-ink">{after}</b>
                  </span>
                ) : (
                  <span className="mono">{after || before}</span>
                )}
                {points.length > 0 && <span className="block">{points.join(", ")}</span>}
                {breaks.map((sentence) => (
                  <span key={sentence} className="block text-marigold-ink">
                    <b>! </b>
                    {sentence}
                  </span>
                ))}
              </span>
              <span className="flex gap-1.5">
                <Plus count={joins} />
                <Minus count={leaves} />
              </span>
            </li>
          ),
        )}
      </ul>
      {lists.length > SHOWN && (
        <Button look="quiet" onClick={() => setAll(!all)}>
          {all ? t("ui.showFewer") : t("ui.showAll", { lists: lists.length })}
        </Button>
      )}
    </section>
  );
}
