import { useState } from "react";
import { t } from "../texts/forms";
import { Field } from "../ui/Field";

/** A few choices, as text with commas between; what is typed stays as it is typed. */
export function QuestionChoices({
  choices,
  onChange,
}: {
  choices: readonly string[];
  onChange: (choices: string[]) => void;
}) {
  const [typed, setTyped] = useState(choices.join(", "));
  return (
    <Field
      label={t("forms.choicesCommasBetweenNoneFree")}
      value={typed}
      onChange={(event) => {
        setTyped(event.target.value);
        onChange([
          ...new Set(
            event.target.value
              .split(",")
              .map((choice) => choice.trim())
              .filter((choice) => choice !== ""),
          ),
        ]);
      }}
      className="min-w-60 flex-1"
    />
  );
}
