import { useState } from "react";
import { FORM_PARTS, type FormPart } from "@amigo/core/forms/form";
import { fold } from "@amigo/core/text/fold";
import type { FormPage } from "@amigo/contract/forms";
import type { FormContent } from "../data/forms";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/forms";
import { OpeningFields } from "./OpeningFields";
import { CarriedOut } from "./CarriedOut";
import { Preview } from "./Preview";
import { UnknownChild } from "./UnknownChild";
import { TextArea } from "./TextArea";
import {
  type Words,
  PART_WORDS,
  Check,
  LanguageTabs,
  CohortChoice,
  QuestionFields,
  OtherTexts,
  Group,
} from "./FormParts";

/** Everything that a form is made of, with the form as families see it beside it. */
export function FormEditor({
  content,
  slug,
  mode,
  choices,
  all,
  mayStep,
  error,
  busy,
  go,
  onKeep,
}: {
  content: FormContent;
  slug: string;
  mode: "ask" | "itself";
  choices: FormPage["choices"];
  /** Whether all classes may be offered. */ all: boolean;
  mayStep: boolean;
  error: unknown;
  busy: boolean;
  go: string;
  onKeep: (wanted: { slug: string; content: FormContent; mode: "ask" | "itself" }) => void;
}) {
  const [edited, setEdited] = useState(content);
  const [ownSlug, setSlug] = useState(slug);
  const [ownMode, setMode] = useState(mode);
  const [language, setLanguage] = useState(content.words[0]?.language ?? "en");
  const [adding, setAdding] = useState("");
  const words = edited.words.find((one) => one.language === language) ?? edited.words[0];
  if (words === undefined) return null;
  const change = (part: Partial<FormContent>): void => setEdited({ ...edited, ...part });
  const say = (part: Partial<Words>): void =>
    change({ words: edited.words.map((one) => (one === words ? { ...one, ...part } : one)) });
  const askAt = (at: number, part: Partial<Words["questions"][number]>): void =>
    say({
      questions: words.questions.map((question, index) =>
        index === at ? { ...question, ...part } : question,
      ),
    });
  const addLanguage = (): void => {
    const code = adding.trim();
    if (
      code === "" ||
      edited.words.some((one) => one.language.toLowerCase() === code.toLowerCase())
    )
      return;
    change({ words: [...edited.words, { ...words, language: code, labels: {} }] });
    setLanguage(code);
    setAdding("");
  };
  const toggle = (part: FormPart): void =>
    change({
      parts: edited.parts.includes(part)
        ? edited.parts.filter((one) => one !== part)
        : FORM_PARTS.filter((one) => one === part || edited.parts.includes(one)),
    });
  const slugOf =
    ownSlug !== ""
      ? ownSlug
      : fold(edited.words[0]?.title ?? "")
          .replace(/[^a-z0-9]+/g, "-")
          .slice(0, 40)
          .replace(/^-|-$/g, "");
  return (
    <div className="grid gap-3.5 lg:min-h-0 lg:flex-1 lg:grid-cols-[minmax(0,1fr)_392px]">
      <Panel scrolls={t("forms.theFormsParts")} className="px-4 py-3.5">
        <form
          className="flex flex-col gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            onKeep({ slug: slugOf, content: edited, mode: ownMode });
          }}
        >
          <LanguageTabs
            edited={edited}
            words={words}
            setLanguage={setLanguage}
            adding={adding}
            setAdding={setAdding}
            addLanguage={addLanguage}
            change={change}
          />
          <Field
            label={t("forms.title")}
            value={words.title}
            maxLength={120}
            onChange={(event) => say({ title: event.target.value })}
          />
          <TextArea
            label={t("forms.introduction")}
            value={words.intro}
            onChange={(intro) => say({ intro })}
          />
          <Group title={t("forms.itAsksForTheChild")}>
            {FORM_PARTS.map((part) => (
              <Check key={part} on={edited.parts.includes(part)} onChange={() => toggle(part)}>
                {PART_WORDS[part]}
              </Check>
            ))}
          </Group>
          {edited.parts.includes("consent") && (
            <TextArea
              label={t("forms.consentTextAChangeMakes")}
              value={words.consent}
              onChange={(consent) => say({ consent })}
            />
          )}
          {(edited.parts.includes("class") || edited.parts.includes("team")) &&
            choices.length > 0 && (
              <CohortChoice all={all} edited={edited} change={change} choices={choices} />
            )}
          <QuestionFields words={words} askAt={askAt} edited={edited} change={change} />
          <OtherTexts words={words} say={say} />
          <OpeningFields
            edited={edited}
            change={change}
            ownSlug={ownSlug}
            slugOf={slugOf}
            setSlug={setSlug}
          />
          <UnknownChild edited={edited} change={change} />
          {mayStep && <CarriedOut ownMode={ownMode} setMode={setMode} />}
          <FaultLine error={error} />
          <div>
            <Button type="submit" look="go" disabled={busy || words.title.trim() === ""}>
              {go}
            </Button>
          </div>
        </form>
      </Panel>
      <Preview content={edited} language={words.language} />
    </div>
  );
}
