import { message } from "@amigo/language/message";
import { say as words } from "@amigo/language/say";
import { useState, type ReactNode, type Dispatch, type SetStateAction } from "react";
import {
  FORM_LABELS,
  FORM_PARTS,
  MOST_QUESTIONS,
  type FormLabel,
  type FormPart,
} from "@amigo/core/forms/form";
import { fold } from "@amigo/core/text/fold";
import type { FormPage } from "@amigo/contract/forms";
import type { FormContent } from "../data/forms";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/t";
import { OpeningFields } from "./OpeningFields";
import { CarriedOut } from "./CarriedOut";
import { Preview } from "./Preview";
import { UnknownChild } from "./UnknownChild";
import { QuestionChoices } from "./QuestionChoices";
import { TextArea } from "./TextArea";

type Words = FormContent["words"][number];

const PART_WORDS: Record<FormPart, string> = {
  class: t("forms.class"),
  team: t("forms.team"),
  relationship: t("forms.relationshipToTheChild"),
  "second guardian": t("forms.aSecondGuardianWhoIs"),
  "how often": t("forms.howOftenTheyWantMail"),
  consent: t("forms.consentWithItsText"),
};

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

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="mb-1 text-[13px] font-[560]">{title}</legend>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">{children}</div>
    </fieldset>
  );
}

function Check({
  on,
  onChange,
  children,
}: {
  on: boolean;
  onChange: () => void;
  children: ReactNode;
}) {
  return (
    <label className="flex min-h-[26px] items-center gap-2">
      <input type="checkbox" checked={on} onChange={onChange} />
      <span>{children}</span>
    </label>
  );
}

/** Returns what a label says where the school has no words of its own, with its place as it is typed. */
function defaultOf(label: FormLabel): string {
  return words(message(FORM_LABELS[label], { address: "{address}" }));
}

function LanguageTabs({
  edited,
  words,
  setLanguage,
  adding,
  setAdding,
  addLanguage,
  change,
}: {
  edited: FormContent;
  words: Words;
  setLanguage: Dispatch<SetStateAction<string>>;
  adding: string;
  setAdding: Dispatch<SetStateAction<string>>;
  addLanguage: () => void;
  change: (part: Partial<FormContent>) => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-2">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-[13px] font-[560]">{t("forms.language")}</span>
        {edited.words.map((one) => (
          <Button
            key={one.language}
            aria-pressed={one === words}
            className={one === words ? "border-petrol! bg-petrol-soft" : ""}
            onClick={() => setLanguage(one.language)}
          >
            {one.language}
          </Button>
        ))}
      </div>
      <div className="ml-auto flex items-end gap-1.5">
        <input
          aria-label={t("forms.anotherLanguageByItsCode")}
          placeholder={t("forms.deFrPtBr")}
          value={adding}
          onChange={(event) => setAdding(event.target.value)}
          className="h-[30px] w-28 rounded-md border border-hair bg-panel px-2"
        />
        <Button disabled={adding.trim() === ""} onClick={addLanguage}>
          {t("forms.addALanguage")}
        </Button>
        {edited.words.length > 1 && (
          <Button
            look="quiet"
            onClick={() => {
              change({ words: edited.words.filter((one) => one !== words) });
              setLanguage(edited.words.find((one) => one !== words)?.language ?? "en");
            }}
          >
            {t("forms.remove", { language: words.language })}
          </Button>
        )}
      </div>
    </div>
  );
}

function CohortChoice({
  all,
  edited,
  change,
  choices,
}: {
  all: boolean;
  edited: FormContent;
  change: (part: Partial<FormContent>) => void;
  choices: { key: string; name: string; site: string; kind: "class" | "team" }[];
}) {
  return (
    <Group title={t("forms.classesAndTeamsThatCan")}>
      {all && (
        <Check
          on={edited.cohorts.length === 0}
          onChange={() =>
            change({
              cohorts: edited.cohorts.length === 0 ? choices.map(({ key }) => key) : [],
            })
          }
        >
          {t("forms.allOfThisSeasonNew")}
        </Check>
      )}
      {(!all || edited.cohorts.length > 0) &&
        choices.map(({ key, name, site, kind }) => (
          <Check
            key={key}
            on={edited.cohorts.includes(key)}
            onChange={() =>
              change({
                cohorts: edited.cohorts.includes(key)
                  ? edited.cohorts.filter((one) => one !== key)
                  : [...edited.cohorts, key],
              })
            }
          >
            {name}
            <span className="text-ink-3"> {kind === "team" ? t("forms.team2") : site}</span>
          </Check>
        ))}
    </Group>
  );
}

function QuestionFields({
  words,
  askAt,
  edited,
  change,
}: {
  words: Words;
  askAt: (at: number, part: Partial<Words["questions"][number]>) => void;
  edited: FormContent;
  change: (part: Partial<FormContent>) => void;
}) {
  return (
    <Group title={t("forms.furtherQuestions")}>
      {words.questions.map((question, at) => (
        <div
          key={at}
          className="col-span-full flex flex-wrap items-end gap-2 border-t border-hair-soft pt-2"
        >
          <Field
            label={t("forms.question", { number: at + 1 })}
            value={question.title}
            onChange={(event) => askAt(at, { title: event.target.value })}
            className="min-w-52 flex-1"
          />
          <QuestionChoices
            key={words.language}
            choices={question.choices}
            onChange={(choices) => askAt(at, { choices })}
          />
          <Check
            on={edited.questions[at]?.required === true}
            onChange={() =>
              change({
                questions: edited.questions.map((one, index) =>
                  index === at ? { required: !one.required } : one,
                ),
              })
            }
          >
            {t("forms.required")}
          </Check>
          <Button
            look="quiet"
            aria-label={t("forms.removeQuestion", { number: at + 1 })}
            onClick={() =>
              change({
                questions: edited.questions.filter((_, index) => index !== at),
                words: edited.words.map((one) => ({
                  ...one,
                  questions: one.questions.filter((_, index) => index !== at),
                })),
              })
            }
          >
            {t("forms.remove2")}
          </Button>
        </div>
      ))}
      {edited.questions.length < MOST_QUESTIONS && (
        <Button
          className="justify-self-start"
          onClick={() =>
            change({
              questions: [...edited.questions, { required: false }],
              words: edited.words.map((one) => ({
                ...one,
                questions: [
                  ...one.questions,
                  {
                    title: t("forms.question", { number: edited.questions.length + 1 }),
                    choices: [],
                  },
                ],
              })),
            })
          }
        >
          {t("forms.addAQuestion")}
        </Button>
      )}
    </Group>
  );
}

function OtherTexts({ words, say }: { words: Words; say: (part: Partial<Words>) => void }) {
  return (
    <details>
      <summary className="cursor-pointer text-[13px] font-[560] text-petrol">
        {t("forms.allOtherTextsOfThe")}
      </summary>
      <div className="mt-2 grid grid-cols-2 gap-2.5">
        {(Object.keys(FORM_LABELS) as FormLabel[]).map((label) => (
          <Field
            key={label}
            label={defaultOf(label)}
            value={words.labels[label] ?? ""}
            placeholder={defaultOf(label)}
            onChange={(event) => say({ labels: { ...words.labels, [label]: event.target.value } })}
          />
        ))}
      </div>
    </details>
  );
}
