import { FAMILY_LANGUAGES } from "@amigo/language/families";
import type { MemberLists } from "@amigo/contract/member";
import { useLanguageMutation } from "../data/member";
import { t } from "../texts/member";
import { FaultLine } from "../ui/Page";
import { Select } from "./Select";

/** A language by its own name, as its readers look for it. */
const nameOf = (language: string): string =>
  new Intl.DisplayNames([language], { type: "language" }).of(language) ?? language;

const OPTIONS = FAMILY_LANGUAGES.map((language) => ({ value: language, name: nameOf(language) }));

/** In which language Amigo speaks to the member: on this page, and in the mails that it writes itself. */
export function LanguageChoice({ own: { language } }: { own: MemberLists }) {
  const [choose, { error }] = useLanguageMutation();
  return (
    <div>
      <Select
        label={t("member.language")}
        value={language}
        options={OPTIONS}
        onChange={(chosen) => void choose(chosen)}
      />
      <FaultLine error={error} />
    </div>
  );
}
