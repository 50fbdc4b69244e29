import { useState, type Dispatch, type SetStateAction } from "react";
import type { FormPage } from "@amigo/contract/forms";
import { languageName } from "@amigo/core/text/languageName";
import { speechHere } from "@amigo/language/texts";
import { Address } from "../ui/Address";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { Rich, t } from "../texts/forms";

const LINK =
  "inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol";

const PAPERS = [
  { value: "A5", name: "A5" },
  { value: "A4", name: "A4" },
  { value: "Letter", name: t("forms.letter") },
] as const;

/** The short address, its code, and a notice to print. */
export function Share({ form }: { form: FormPage }) {
  const [written, setLine] = useState<string>();
  const [language, setLanguage] = useState(form.content.words[0]?.language ?? "en");
  const line = written ?? form.noticeLines[language] ?? "";
  const [paper, setPaper] = useState<(typeof PAPERS)[number]["value"]>("A5");
  const [copied, setCopied] = useState(false);
  const at = `/api/forms/${form.id}`;
  return (
    <div className="grid max-w-4xl gap-3.5 md:grid-cols-[260px_minmax(0,1fr)]">
      <Panel className="flex flex-col items-center gap-2.5 px-4 py-4">
        <img
          src={`${at}/qr.svg?look`}
          alt={t("forms.codeThatLeadsTo", { url: form.url })}
          className="w-full rounded bg-white"
        />
        <div className="flex gap-2">
          <a className={LINK} href={`${at}/qr.svg`}>
            SVG
          </a>
          <a className={LINK} href={`${at}/qr.png`}>
            PNG
          </a>
        </div>
      </Panel>
      <div className="flex flex-col gap-3.5">
        <Panel className="px-4 py-3.5">
          <h2>{t("forms.address")}</h2>
          <p className="mt-1">
            <Address>{form.url}</Address>
          </p>
          <div className="mt-2.5 flex items-center gap-2">
            <Button
              onClick={() =>
                void navigator.clipboard.writeText(form.url).then(() => setCopied(true))
              }
            >
              {t("forms.copyTheAddress")}
            </Button>
            <a className={LINK} href={form.url} target="_blank" rel="noreferrer">
              {t("forms.openItAsAFamily")}
            </a>
            {copied && (
              <span role="status" className="text-leaf-ink">
                {t("forms.copied")}
              </span>
            )}
          </div>
        </Panel>
        <Panel className="px-4 py-3.5">
          <h2>{t("forms.noticeToPrint")}</h2>
          <NoticeMaker
            line={line}
            setLine={setLine}
            form={form}
            language={language}
            setLanguage={setLanguage}
            paper={paper}
            setPaper={setPaper}
            at={at}
          />
        </Panel>
      </div>
    </div>
  );
}

function NoticeMaker({
  line,
  setLine,
  form,
  language,
  setLanguage,
  paper,
  setPaper,
  at,
}: {
  line: string;
  setLine: (line: string) => void;
  form: FormPage;
  language: string;
  setLanguage: Dispatch<SetStateAction<string>>;
  paper: "Letter" | "A5" | "A4";
  setPaper: Dispatch<SetStateAction<"Letter" | "A5" | "A4">>;
  at: string;
}) {
  return (
    <div className="mt-2 flex flex-col gap-2.5">
      <Field
        label={t("forms.lineOfText")}
        value={line}
        lang={language}
        dir="auto"
        maxLength={300}
        onChange={(event) => setLine(event.target.value)}
      />
      {form.content.words.length > 1 && (
        <p>
          <Rich
            id="forms.in"
            choice={
              <Choice
                small
                label={t("forms.languageOfTheNotice")}
                value={language}
                onChange={setLanguage}
                options={form.content.words.map((words) => ({
                  value: words.language,
                  name: languageName(words.language, speechHere().language),
                }))}
              />
            }
          />
        </p>
      )}
      <p>
        <Rich
          id="forms.on"
          choice={
            <Choice
              small
              label={t("forms.paperOfTheNotice")}
              value={paper}
              onChange={setPaper}
              options={PAPERS}
            />
          }
        />
      </p>
      <div className="flex gap-2">
        <a
          className={LINK}
          href={`${at}/notice.pdf?paper=${paper}&language=${encodeURIComponent(language)}&line=${encodeURIComponent(line)}`}
        >
          {t("forms.noticeAsPdf")}
        </a>
      </div>
    </div>
  );
}
