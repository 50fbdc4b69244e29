import type { Dispatch, SetStateAction } from "react";
import { t } from "../texts/ui";

export function HelperSheets({
  sources,
  chosen,
  setChosen,
}: {
  sources: readonly { id: string; name: string }[];
  chosen: readonly string[];
  setChosen: Dispatch<SetStateAction<readonly string[]>>;
}) {
  return (
    <fieldset>
      <legend className="mb-1 text-[13px] font-[560]">{t("ui.sheetsToWhichTheyMay")}</legend>
      {sources.length === 0 ? (
        <p className="text-[13px] text-ink-2">{t("ui.noSheetWasReadYet")}</p>
      ) : (
        sources.map((source) => (
          <label key={source.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(source.id)}
              onChange={() =>
                setChosen(
                  chosen.includes(source.id)
                    ? chosen.filter((id) => id !== source.id)
                    : [...chosen, source.id],
                )
              }
            />
            {source.name}
          </label>
        ))
      )}
    </fieldset>
  );
}
