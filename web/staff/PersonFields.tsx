import type { Dispatch, SetStateAction } from "react";
import { t } from "../texts/ui";
import { Field } from "../ui/Field";

export function PersonFields({
  name,
  setName,
  email,
  setEmail,
}: {
  name: string;
  setName: Dispatch<SetStateAction<string>>;
  email: string;
  setEmail: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <Field
        label={t("ui.name")}
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
        maxLength={120}
      />
      <Field
        label={t("ui.address")}
        type="email"
        value={email}
        onChange={(event) => setEmail(event.target.value)}
        maxLength={254}
      />
    </div>
  );
}
