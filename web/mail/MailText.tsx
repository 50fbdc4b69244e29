import { useState } from "react";
import { X } from "lucide-react";
import { languageName } from "@amigo/core/text/languageName";
import { speechHere } from "@amigo/language/texts";
import type { DraftContent, DraftReckoning } from "@amigo/contract/drafts";
import { FAMILY_LANGUAGES, isRightToLeft, type FamilyLanguage } from "@amigo/language/families";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Warn } from "../ui/Signs";
import { Tabs } from "../ui/Tabs";
import { Rich, t } from "../texts/mail";
import { Editor } from "./Editor";

/** Returns what a language is called for whoever writes: they need not read it. */
const nameOf = (language: string): string => languageName(language, speechHere().language);

/** Subject and text of a mail, in each of its languages. */
export function MailText({
  content,
  change,
  counts,
  focusSubject,
  onFiles,
}: {
  content: DraftContent;
  change: (part: Partial<DraftContent>) => void;
  counts: DraftReckoning | undefined;
  focusSubject: boolean;
  onFiles: (files: readonly File[], asPictures: boolean) => Promise<readonly string[]>;
}) {
  const { versions } = content;
  const [chosen, setChosen] = useState("");
  const shown = versions.find(({ language }) => language === chosen);
  const usual = counts?.usualLanguage ?? "en";
  const own = content.language === "" ? usual : content.language;
  const write = (part: { subject?: string; html?: string }): void =>
    shown === undefined
      ? change(part)
      : change({
          versions: versions.map((version) =>
            version === shown ? { ...version, ...part } : version,
          ),
        });
  const add = (language: FamilyLanguage): void => {
    change({
      language: own,
      versions: [...versions, { language, subject: content.subject, html: "" }],
    });
    setChosen(language);
  };
  const { subject, html } = shown ?? content;
  const language = shown?.language ?? own;
  return (
    <>
      <Missing counts={counts} onAdd={add} />
      {versions.length > 0 && (
        <Tabs
          label={t("mail.languagesOfThisMail")}
          value={shown?.language ?? ""}
          tabs={[
            ["", nameOf(own)],
            ...versions.map((one) => [one.language, nameOf(one.language)] as const),
          ]}
          onChange={setChosen}
        />
      )}
      <Field
        label={t("mail.subject")}
        autoFocus={focusSubject}
        value={subject}
        onChange={(event) => write({ subject: event.target.value })}
        maxLength={300}
        lang={language}
        dir="auto"
      />
      <div>
        <span aria-hidden="true" className="mb-1 block text-[13px] font-[560]">
          {t("mail.text")}
        </span>
        <div lang={language} dir={isRightToLeft(language) ? "rtl" : "ltr"}>
          <Editor
            key={language}
            html={html}
            onChange={(changed) => write({ html: changed })}
            onFiles={onFiles}
          />
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-2 text-[13px]">
        <AddLanguage there={[own, ...versions.map((one) => one.language)]} onAdd={add} />
        {shown === undefined && versions.length > 0 && (
          <OwnLanguage
            own={own}
            others={versions.map((one) => one.language)}
            onChange={(next) => change({ language: next })}
          />
        )}
        {shown !== undefined && (
          <Button
            look="quiet"
            onClick={() => {
              change({ versions: versions.filter((version) => version !== shown) });
              setChosen("");
            }}
          >
            <X size={14} aria-hidden="true" />
            {t("mail.removeLanguage", { language: nameOf(shown.language) })}
          </Button>
        )}
        {versions.length > 0 && (
          <span className="text-ink-2">{t("mail.eachRecipientGetsTheirLanguage")}</span>
        )}
      </div>
    </>
  );
}

/** For how many recipients the mail says nothing in their language yet. */
function Missing({
  counts,
  onAdd,
}: {
  counts: DraftReckoning | undefined;
  onAdd: (language: FamilyLanguage) => void;
}) {
  const missing = counts?.missingLanguages ?? [];
  if (missing.length === 0) return null;
  return (
    <ul aria-label={t("mail.languagesStillMissing")} className="flex flex-col gap-1 text-[13px]">
      {missing.map(({ language, addresses }) => (
        <li key={language} className="flex flex-wrap items-center gap-2">
          <Warn>{t("mail.readThisLanguage", { addresses, language: nameOf(language) })}</Warn>
          <Button look="quiet" onClick={() => onAdd(language)}>
            {t("mail.addLanguage", { language: nameOf(language) })}
          </Button>
        </li>
      ))}
    </ul>
  );
}

function AddLanguage({
  there,
  onAdd,
}: {
  there: readonly FamilyLanguage[];
  onAdd: (language: FamilyLanguage) => void;
}) {
  const others = FAMILY_LANGUAGES.filter((language) => !there.includes(language));
  if (others.length === 0) return null;
  return (
    <Choice<FamilyLanguage | "">
      small
      label={t("mail.languages")}
      value=""
      options={[
        { value: "", name: t("mail.addALanguage") },
        ...others.map((language) => ({ value: language, name: nameOf(language) })),
      ]}
      onChange={(language) => {
        if (language !== "") onAdd(language);
      }}
    />
  );
}

/** In which language the text itself is. */
function OwnLanguage({
  own,
  others,
  onChange,
}: {
  own: FamilyLanguage;
  others: readonly FamilyLanguage[];
  onChange: (language: FamilyLanguage) => void;
}) {
  return (
    <span className="inline-flex items-center gap-2">
      <Rich
        id="mail.thisTextIsIn"
        choice={
          <Choice
            small
            label={t("mail.languageOfThisText")}
            value={own}
            options={FAMILY_LANGUAGES.filter((language) => !others.includes(language)).map(
              (language) => ({ value: language, name: nameOf(language) }),
            )}
            onChange={onChange}
          />
        }
      />
    </span>
  );
}
