import { useState } from "react";
import type { RoundPage } from "@amigo/contract/rounds";
import { Rich, t } from "../texts/ui";

/** The guards whose count was not typed yet. */
export function unpassed(
  guards: RoundPage["guards"],
  typed: Record<string, string>,
): RoundPage["guards"] {
  return guards.filter(({ id, count }) => typed[id] !== String(count));
}

/** The guards that stand before a round. Each says why it stands and takes its count. */
export function Guards({
  guards,
  typed,
  onType,
}: {
  guards: RoundPage["guards"];
  typed: Record<string, string>;
  onType: (id: string, value: string) => void;
}) {
  const [all, setAll] = useState(false);
  const shown = all ? guards : guards.slice(0, 2);
  return (
    <div className="flex flex-col gap-2">
      {shown.map(({ id, about, sentence, count }) => {
        const passed = typed[id] === String(count);
        return (
          <div
            key={id}
            className="flex items-center gap-3.5 rounded-lg border border-marigold-line bg-marigold-soft px-3.5 py-2 last:mb-3"
          >
            <b className="whitespace-nowrap">{passed ? t("ui.confirmed") : t("ui.safetyCheck")}</b>
            <p className="min-w-0 flex-1">
              <b className="font-[650]">{about}</b> {sentence}
            </p>
            <label className="flex items-center gap-3.5 whitespace-nowrap">
              <Rich
                id="ui.typeToConfirm2"
                count={count}
                input={
                  <input
                    inputMode="numeric"
                    value={typed[id] ?? ""}
                    onChange={(event) => onType(id, event.target.value.trim())}
                    aria-label={t("ui.typeToConfirm", { count, about })}
                    className="h-7 w-14 rounded border border-marigold-line bg-panel px-2 text-center"
                  />
                }
              />
            </label>
          </div>
        );
      })}
      {guards.length > 2 && (
        <button
          type="button"
          className="mb-3 self-start text-petrol underline underline-offset-2"
          onClick={() => setAll(!all)}
        >
          {all ? t("ui.fewerSafetyChecks") : t("ui.moreSafetyChecks", { count: guards.length - 2 })}
        </button>
      )}
    </div>
  );
}
