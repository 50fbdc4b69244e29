import type { FormContent } from "../data/forms";
import { Rich, t } from "../texts/forms";
import { Choice } from "../ui/Choice";

export function UnknownChild({
  edited,
  change,
}: {
  edited: FormContent;
  change: (part: Partial<FormContent>) => void;
}) {
  return (
    <p>
      <Rich
        id="forms.aChildWhoIsInNo"
        choice={
          <Choice
            small
            label={t("forms.aChildWhoIsIn")}
            value={edited.unknownChild}
            onChange={(unknownChild) => change({ unknownChild })}
            options={[
              { value: "ask", name: t("forms.askMe") },
              { value: "take", name: t("forms.isANewChild") },
            ]}
          />
        }
      />
    </p>
  );
}
