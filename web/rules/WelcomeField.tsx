import { useId, useState, type Dispatch, type SetStateAction } from "react";
import type { z } from "zod";
import type { postWelcomePreview } from "@amigo/contract/members";
import { WELCOME_FIELDS } from "@amigo/core/mail/welcomeText";
import { sentenceOf } from "../data/api";
import { useWelcomePreviewQuery } from "../data/lists";
import { Rich, t } from "../texts/ui";
import { SearchField } from "../ui/SearchField";

/** The words by which somebody is welcomed, with what can be filled in, what is wrong with them, and how any one person would get them. */
export function WelcomeField({
  label,
  value,
  onChange,
  lists,
  help,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  lists: readonly string[];
  help: string;
}) {
  const id = useId();
  const [showing, setShowing] = useState(false);
  const [as, setAs] = useState("");
  const { data, error } = useWelcomePreviewQuery(
    { text: value, list: lists[0] ?? null, as },
    { skip: !showing },
  );
  const put = (what: string): void =>
    onChange(`${value}${value === "" || /\s$/.test(value) ? "" : " "}${what}`);
  const [fault] = data?.faults ?? [];
  return (
    <div>
      <label htmlFor={id} className="block text-[13px] font-[560]">
        {label}
      </label>
      <textarea
        id={id}
        aria-describedby={`${id}-help`}
        rows={4}
        maxLength={5000}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        placeholder={t("ui.helloThisAddressIsOn")}
        className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
      <p id={`${id}-help`} className="mt-1 text-[13px] text-ink-3">
        <Rich
          id="ui.filledInForEach"
          help={help}
          fields={[...WELCOME_FIELDS.map((field) => `{${field}}`), t("ui.count2")].map((what) => (
            <button
              key={what}
              type="button"
              onClick={() => put(what)}
              className="mr-1 rounded bg-petrol-soft px-1 text-petrol hover:underline"
            >
              {what}
            </button>
          ))}
        />
      </p>
      <button
        type="button"
        aria-expanded={showing}
        onClick={() => setShowing(!showing)}
        className="mt-1 text-[13px] font-[560] text-petrol underline underline-offset-2"
      >
        {showing ? t("ui.closeThePreview") : t("ui.seeItAsSomebodyGets")}
      </button>
      {showing && <WelcomeShown as={as} setAs={setAs} data={data} error={error} fault={fault} />}
    </div>
  );
}

function WelcomeShown({
  as,
  setAs,
  data,
  error,
  fault,
}: {
  as: string;
  setAs: Dispatch<SetStateAction<string>>;
  data: z.output<typeof postWelcomePreview.answer> | undefined;
  error: ReturnType<typeof useWelcomePreviewQuery>["error"];
  fault: { at: number; sentence: string } | undefined;
}) {
  return (
    <div className="mt-1.5 rounded-md border border-hair bg-sunk px-3 py-2 text-[13px]">
      <div className="mb-1.5 flex items-center gap-2">
        <span className="text-ink-2">{t("ui.as")}</span>
        <SearchField
          label={t("ui.asWhom")}
          placeholder={t("ui.aMembersNameOrAn")}
          value={as}
          onChange={setAs}
          className="w-64 max-w-full"
        />
        <span className="truncate text-ink-3">
          {data === undefined ? "" : t("ui.on2", { to: data.to, list: data.list })}
        </span>
      </div>
      {error !== undefined && (
        <p role="alert" className="text-brick">
          ! {sentenceOf(error)}
        </p>
      )}
      {fault !== undefined && (
        <p role="status" className="text-marigold-ink">
          <Rich id="ui.atSign" mark={<b>! </b>} at={fault.at + 1} sentence={fault.sentence} />
        </p>
      )}
      {data !== undefined && (
        <>
          <p className="font-[620]">{data.subject}</p>
          <pre className="mt-1 font-sans whitespace-pre-wrap">{data.text.replaceAll("\r", "")}</pre>
        </>
      )}
    </div>
  );
}
