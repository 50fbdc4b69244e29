import type { Dispatch, SetStateAction } from "react";
import type { FormContent } from "../data/forms";
import { t } from "../texts/forms";
import { DayField } from "../ui/DayField";
import { Field } from "../ui/Field";

export function OpeningFields({
  edited,
  change,
  ownSlug,
  slugOf,
  setSlug,
}: {
  edited: FormContent;
  change: (part: Partial<FormContent>) => void;
  ownSlug: string;
  slugOf: string;
  setSlug: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <DayField
        label={t("forms.opensOn")}

        value={edited.opensOn}
        onChange={(opensOn) => change({ opensOn })}
        help={t("forms.leaveEmptyToOpenIt")}
      />
      <DayField
        label={t("forms.lastDay")}

        value={edited.closesOn}
        onChange={(closesOn) => change({ closesOn })}
        help={t("forms.leaveEmptyToKeepIt")}
      />
      <Field
        label={t("forms.shortAddressAfterF")}
        className="mono"
        value={ownSlug}
        placeholder={slugOf}
        onChange={(event) => setSlug(event.target.value.toLowerCase())}
      />
    </div>
  );
}
