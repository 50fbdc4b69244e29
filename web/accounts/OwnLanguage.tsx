import type { StaffLanguage } from "@amigo/language/staff";
import { useMe } from "../data/me";
import { useChooseOwnLanguageMutation } from "../data/staff";
import { Choice } from "../ui/Choice";
import { FaultLine, Panel } from "../ui/Page";
import { LANGUAGE_CHOICES } from "../texts/staff";
import { t } from "../texts/accounts";

/** In which language one reads Amigo. */
export function OwnLanguage() {
  const { speaks } = useMe();
  const [choose, { error }] = useChooseOwnLanguageMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.language")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("accounts.languageOfPagesAndNotes")}</p>
      <Choice<StaffLanguage>
        label={t("accounts.language")}
        value={speaks}
        options={LANGUAGE_CHOICES}
        onChange={(language) => void choose(language)}
      />
      <FaultLine error={error} />
    </Panel>
  );
}
