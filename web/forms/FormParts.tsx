import { message } from "@amigo/language/message";
import { say as words } from "@amigo/language/say";
import type { ReactNode, Dispatch, SetStateAction } from "react";
import { FORM_LABELS, MOST_QUESTIONS, type FormLabel, type FormPart } from "@amigo/core/forms/form";
import type { FormContent } from "../data/forms";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { t } from "../texts/forms";
import { QuestionChoices } from "./QuestionChoices";

export type Words = FormContent["words"][number];

export const PART_WORDS: Record<FormPart, string> = {
  class: t("forms.class"),
  team: t("forms.team"),
  relationship: t("forms.relationshipToTheChild"),
  "second guardian": t("forms.aSecondGuardianWhoIs"),
  "how often": t("forms.howOftenTheyWantMail"),
  consent: t("forms.consentWithItsText"),
};

export function Check({
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

export function LanguageTabs({
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

export function CohortChoice({
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

export function QuestionFields({
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

export function OtherTexts({ words, say }: { words: Words; say: (part: Partial<Words>) => void }) {
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

export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="mb-1 text-[13px] font-[560]">{title}</legend>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1">{children}</div>
    </fieldset>
  );
}
