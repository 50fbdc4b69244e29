import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import type { AudienceTried } from "@amigo/contract/audiences";
import type { Each } from "@amigo/core/lists/recipe";
import { useTriedAudienceQuery } from "../data/edits";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Warn } from "../ui/Signs";
import { AudienceBuilder } from "./AudienceBuilder";

/** What is typed is tried after this many milliseconds of rest. */
const SETTLES_AFTER = 180;

/**
 * Who belongs on a list, as text: it completes words of the language and names of the house, tells faults at their place
 * with a proposal, reads the text back as a sentence and shows how many and who first.
 */
export function AudienceField({
  label = t("ui.whoBelongsOnIt"),
  value,
  onChange,
  each,
  list = "",
  autoFocus = false,
}: {
  label?: string;
  value: string;
  onChange: (text: string) => void;
  each: Each | "";
  list?: string;
  autoFocus?: boolean;
}) {
  const id = useId();
  const field = useRef<HTMLTextAreaElement>(null);
  const [cursor, setCursor] = useState(value.length);
  const [asked, setAsked] = useState({ text: value, cursor: value.length });
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState(0);
  useEffect(() => {
    const timer = setTimeout(() => setAsked({ text: value, cursor }), SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [value, cursor]);
  const { data: tried, currentData } = useTriedAudienceQuery({ ...asked, each, list });
  // What was proposed for an older text would go to the wrong place.
  const completions =
    open && asked.text === value && asked.cursor === cursor ? (currentData?.completions ?? []) : [];
  const replace = (text: string, at: number): void => {
    onChange(text);
    setCursor(at);
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(at, at);
    });
  };
  const take = (index: number): void => {
    const completion = completions[index];
    if (completion === undefined) return;
    // An open quote before the cursor is part of what is replaced; one behind it belongs to it.
    const rest = value.slice(cursor).replace(completion.text.endsWith('"') ? /^"/ : /^$/, "");
    const start = `${value.slice(0, completion.from)}${completion.text} `;
    setChosen(0);
    replace(`${start}${rest.replace(/^ /, "")}`, start.length);
  };
  const press = (event: KeyboardEvent): void => {
    if (event.key === " " && event.ctrlKey) {
      event.preventDefault();
      setOpen(true);
      return;
    }
    if (event.key === "Enter") {
      event.preventDefault();
      if (completions.length > 0) take(chosen);
      return;
    }
    if (completions.length === 0) return;
    if (event.key === "Escape") {
      event.preventDefault();
      event.stopPropagation();
      setOpen(false);
    }
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setChosen(
        (chosen + (event.key === "ArrowDown" ? 1 : completions.length - 1)) % completions.length,
      );
    }
  };
  const [fault] = tried?.faults ?? [];
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {label}
      </label>
      <div className="mb-2">
        <AudienceBuilder value={value} onChange={onChange} each={each} />
      </div>
      <div className="relative">
        <textarea
          id={id}
          ref={field}
          autoFocus={autoFocus}
          rows={2}
          spellCheck={false}
          value={value}
          aria-autocomplete="list"
          aria-controls={`${id}-ways`}
          aria-activedescendant={completions.length > 0 ? `${id}-${chosen}` : undefined}
          aria-describedby={`${id}-said`}
          onChange={(event) => {
            onChange(event.target.value.replace(/\n/g, " "));
            setCursor(event.target.selectionStart);
            setOpen(true);
            setChosen(0);
          }}
          onSelect={(event) => setCursor(event.currentTarget.selectionStart)}
          onKeyDown={press}
          onBlur={() => setOpen(false)}
          placeholder={
            each === "" || each === "house"
              ? t("ui.parentsOfClass3aCoaches")
              : t("ui.parentsOfStudentsInThis", { each })
          }
          className="mono block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5 text-[13.5px]! hover:border-ink-3"
        />
        <ul
          id={`${id}-ways`}
          role="listbox"
          aria-label={t("ui.waysToGoOn")}
          className={`absolute inset-x-0 top-full z-50 mt-1 max-h-60 overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg ${completions.length === 0 ? "hidden" : ""}`}
        >
          {completions.map(({ text, what }, index) => (
            <li
              key={text}
              id={`${id}-${index}`}
              role="option"
              aria-selected={index === chosen}
              onPointerDown={(event) => {
                event.preventDefault();
                take(index);
              }}
              className={`flex cursor-pointer gap-3 px-3 py-1 ${index === chosen ? "bg-petrol-soft" : ""}`}
            >
              <span className="mono flex-1 text-[13px]!">{text}</span>
              <span className="text-[13px] text-ink-3">{what}</span>
            </li>
          ))}
        </ul>
      </div>
      <AudienceSaid
        id={id}
        fault={fault}
        value={value}
        replace={replace}
        tried={tried}
        list={list}
      />
    </div>
  );
}

function AudienceSaid({
  id,
  fault,
  value,
  replace,
  tried,
  list,
}: {
  id: string;
  fault: { at: number; length: number; sentence: string; proposal: string | null } | undefined;
  value: string;
  replace: (text: string, at: number) => void;
  tried: AudienceTried | undefined;
  list: string;
}) {
  return (
    <div id={`${id}-said`} role="status" className="mt-1.5 min-h-11 text-[13px]">
      {fault !== undefined && (
        <p>
          <Warn>{fault.sentence}</Warn>
          {fault.proposal !== null && (
            <Button
              className="ml-2 min-h-[24px]! px-2! text-[13px]"
              onClick={() => {
                const text = `${value.slice(0, fault.at)}${fault.length === 0 && fault.at > 0 && !value.endsWith(" ") ? " " : ""}${fault.proposal ?? ""}${value.slice(fault.at + fault.length)}`;
                replace(text, text.length - (value.length - fault.at - fault.length));
              }}
            >
              {t("ui.write", { proposal: fault.proposal })}
            </Button>
          )}
        </p>
      )}
      {fault === undefined && tried !== undefined && tried.sentence !== "" && (
        <p className="text-ink-2">{tried.sentence}</p>
      )}
      {tried !== undefined && tried.sentence !== "" && (
        <p className="mt-0.5">
          <b className="font-[640]">
            {t("ui.peopleAddresses", { people: tried.people, addresses: tried.addresses })}
          </b>
          {tried.example !== "" && (
            <span className="text-ink-3">
              {" "}
              {t("ui.forForExample", { example: tried.example, isList: String(list === "") })}
            </span>
          )}
          {tried.first.length > 0 && (
            <span className="text-ink-2">
              :{" "}
              {tried.first
                .slice(0, 5)
                .map(({ name, because, reached }) =>
                  t("ui.count", { name, because, reached: String(reached) }),
                )
                .join("; ")}
              {tried.people > 5 && " …"}
            </span>
          )}
        </p>
      )}
    </div>
  );
}
