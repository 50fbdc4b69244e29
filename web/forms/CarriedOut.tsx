import type { Dispatch, SetStateAction } from "react";
import { Rich, t } from "../texts/forms";
import { Choice } from "../ui/Choice";

export function CarriedOut({
  ownMode,
  setMode,
}: {
  ownMode: "ask" | "itself";
  setMode: Dispatch<SetStateAction<"ask" | "itself">>;
}) {
  return (
    <p>
      <Rich
        id="forms.changesFromAnswers2"
        choice={
          <Choice
            small
            label={t("forms.changesFromAnswers")}
            value={ownMode}
            onChange={setMode}
            options={[
              { value: "ask", name: t("forms.waitInChangesForMy") },
              {
                value: "itself",
                name: t("forms.happenAutomaticallyUnlessASafety"),
              },
            ]}
          />
        }
      />
    </p>
  );
}
