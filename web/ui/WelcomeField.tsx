import { useId, useState } from "react";
import { WELCOME_FIELDS } from "@amigo/core/mail/welcomeText";
import { sentenceOf } from "../data/api";
import { useWelcomePreviewQuery } from "../data/lists";
import { SearchField } from "./SearchField";

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
        placeholder={
          "Hello{if first name} {first name}{end},\nthis address is on the list {list} of {house} from now on."
        }
        className="mt-1 block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
      <p id={`${id}-help`} className="mt-1 text-[13px] text-ink-3">
        {help} Filled in for each:{" "}
        {[...WELCOME_FIELDS.map((field) => `{${field}}`), "{if class} {else} {end}"].map((what) => (
          <button
            key={what}
            type="button"
            onClick={() => put(what)}
            className="mr-1 rounded bg-petrol-soft px-1 text-petrol hover:underline"
          >
            {what}
          </button>
        ))}
      </p>
      <button
        type="button"
        aria-expanded={showing}
        onClick={() => setShowing(!showing)}
        className="mt-1 text-[13px] font-[560] text-petrol underline underline-offset-2"
      >
        {showing ? "Close the preview" : "See it as somebody gets it"}
      </button>
      {showing && (
        <div className="mt-1.5 rounded-md border border-hair bg-sunk px-3 py-2 text-[13px]">
          <div className="mb-1.5 flex items-center gap-2">
            <span className="text-ink-2">As</span>
            <SearchField
              label="As whom"
              placeholder="a member's name or an address"
              value={as}
              onChange={setAs}
              className="w-64 max-w-full"
            />
            <span className="truncate text-ink-3">
              {data === undefined ? "" : `${data.to}, on ${data.list}`}
            </span>
          </div>
          {error !== undefined && (
            <p role="alert" className="text-brick">
              ! {sentenceOf(error)}
            </p>
          )}
          {fault !== undefined && (
            <p role="status" className="text-marigold-ink">
              <b>! </b>At sign {fault.at + 1}: {fault.sentence}
            </p>
          )}
          {data !== undefined && (
            <>
              <p className="font-[620]">{data.subject}</p>
              <pre className="mt-1 font-sans whitespace-pre-wrap">
                {data.text.replaceAll("\r", "")}
              </pre>
            </>
          )}
        </div>
      )}
    </div>
  );
}
