import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { ChevronDown, User, Users, X } from "lucide-react";
import { useId, useState } from "react";
import type { Target, TargetHit } from "@amigo/contract/drafts";
import { useTargetMembersQuery, useTargetsQuery } from "../data/drafts";
import { Choice } from "../ui/Choice";
import { FaultLine } from "../ui/Page";
import { faultOf, targetOf, targetsIn } from "./typedTargets";
import { t } from "../texts/mail";

interface Leaving {
  leftOut: readonly string[];
  onLeaveOut: (addresses: string[]) => void;
}

/** Whom a mail goes to: lists, private lists, people and addresses, completed as one types. A list opens in place, to see and leave out people. */
export function TargetField({
  label,
  targets,
  text,
  onText,
  onChange,
  leaving,
  autoFocus = false,
}: {
  label: string;
  targets: readonly Target[];
  /** What is typed and is no recipient yet. */
  text: string;
  onText: (text: string) => void;
  onChange: (targets: Target[]) => void;
  leaving: Leaving;
  autoFocus?: boolean;
}) {
  const setText = onText;
  const [focused, setFocused] = useState(false);
  const [opened, setOpened] = useState("");
  const inputId = useId();
  // Only what answers the text as it is now: a hit of an older text must never be taken by a quick Enter.
  const { currentData: hits = [] } = useTargetsQuery(text.trim(), { skip: text.trim() === "" });
  const open =
    text.trim() === ""
      ? []
      : hits.filter(
          ({ kind, id }) =>
            !targets.some((candidate) => candidate.kind === kind && candidate.id === id),
        );
  /** Makes recipients of the addresses in a text; what is left of it stays in the field, to be seen. */
  const settle = (typed: string): void => {
    const { targets: made, rest } = targetsIn(typed, targets);
    if (made.length > 0) onChange([...targets, ...made]);
    setText(rest);
  };
  const fault = focused || text.trim() === "" ? undefined : faultOf(text);
  const shown = targets.find(({ kind, id }) => kind === "list" && id === opened);
  return (
    <div>
      <label htmlFor={inputId} className="mb-1 block text-[13px] font-[560]">
        {label}
      </label>
      <Combobox
        value={null}
        onChange={(hit: TargetHit | null) => {
          if (hit !== null) {
            onChange([...targets, targetOf(hit)]);
            setText("");
          }
        }}
        immediate
      >
        <div className="flex min-h-[34px] flex-wrap items-center gap-1.5 rounded-md border border-hair bg-panel px-1.5 py-1 focus-within:outline-2 focus-within:outline-petrol">
          {targets.map((target) => (
            <Chip
              key={`${target.kind} ${target.id}`}
              target={target}
              isOpen={opened === target.id}
              onOpen={() => setOpened(opened === target.id ? "" : target.id)}
              onRemove={() => onChange(targets.filter((candidate) => candidate !== target))}
              onWhom={(whom) =>
                onChange(
                  targets.map((eachTarget) =>
                    eachTarget === target ? { ...eachTarget, whom } : eachTarget,
                  ),
                )
              }
            />
          ))}
          <ComboboxInput
            id={inputId}
            autoFocus={autoFocus}
            value={text}
            displayValue={() => text}
            aria-invalid={fault !== undefined}
            aria-describedby={fault === undefined ? undefined : `${inputId}-fault`}
            onChange={(event) => setText(event.target.value)}
            onFocus={() => setFocused(true)}
            onBlur={() => {
              setFocused(false);
              settle(text);
            }}
            onPaste={(event) => {
              const pasted = event.clipboardData.getData("text/plain");
              if (!/@[^@]*[\s,;]/.test(pasted.trim())) return;
              event.preventDefault();
              settle(`${text} ${pasted}`);
            }}
            onKeyDown={(event) => {
              if (event.key === "Backspace" && text === "" && targets.length > 0)
                onChange(targets.slice(0, -1));
              // A separator, or Enter where nothing is offered, ends an address.
              const ends = event.key === "," || event.key === ";";
              if (text.includes("@") && (ends || (event.key === "Enter" && open.length === 0))) {
                event.preventDefault();
                settle(text);
              }
            }}
            placeholder={targets.length === 0 && label === "To" ? t("mail.startOfAListsOr") : ""}
            autoComplete="off"
            className="min-w-40 flex-1 bg-transparent px-1 outline-none!"
          />
        </div>
        <TargetOptions open={open} />
      </Combobox>
      {fault !== undefined && (
        <p id={`${inputId}-fault`} role="alert" className="mt-1 text-[13px] text-brick">
          ! {fault}
        </p>
      )}
      {shown !== undefined && <Members target={shown} leaving={leaving} />}
    </div>
  );
}

function Sign({ many }: { many: boolean }) {
  return many ? (
    <Users size={15} aria-label={t("mail.manyPeople")} className="shrink-0 text-petrol" />
  ) : (
    <User size={15} aria-label={t("mail.onePerson")} className="shrink-0 text-ink-3" />
  );
}

function Chip({
  target,
  isOpen,
  onOpen,
  onRemove,
  onWhom,
}: {
  target: Target;
  isOpen: boolean;
  onOpen: () => void;
  onRemove: () => void;
  onWhom: (whom: NonNullable<Target["whom"]>) => void;
}) {
  const many = target.kind === "list" || target.kind === "private";
  return (
    <span
      className={`flex items-center gap-1.5 rounded py-0.5 pr-1 pl-2 ${many ? "bg-petrol-soft text-petrol" : "bg-sunk text-ink"}`}
    >
      <Sign many={many} />
      <b className="font-[600]">{target.name}</b>
      {target.whom !== undefined && (
        <Choice
          small
          label={t("mail.whoGetsItFor", { name: target.name })}
          value={target.whom}
          onChange={onWhom}
          className="min-h-[22px]! border-transparent! bg-panel px-1.5!"
          options={[
            { value: "guardians", name: t("mail.theirGuardians") },
            { value: "themselves", name: t("mail.theChild") },
          ]}
        />
      )}
      {target.kind === "list" && (
        <button
          type="button"
          aria-expanded={isOpen}
          aria-label={t("mail.whoIsOn", { name: target.name })}
          onClick={onOpen}
          className="rounded hover:bg-panel"
        >
          <ChevronDown size={14} aria-hidden="true" className={isOpen ? "rotate-180" : ""} />
        </button>
      )}
      <button
        type="button"
        aria-label={t("mail.remove3", { name: target.name })}
        onClick={onRemove}
        className="rounded hover:bg-panel"
      >
        <X size={14} aria-hidden="true" />
      </button>
    </span>
  );
}

/** Who is on a list, each to be left out this once. */
function Members({
  target,
  leaving: { leftOut, onLeaveOut },
}: {
  target: Target;
  leaving: Leaving;
}) {
  const { data, error } = useTargetMembersQuery(target.id);
  if (error !== undefined)
    return (
      <div className="mt-1.5">
        <FaultLine
          error={{
            detail: t("mail.whoIsOnThisList"),
          }}
        />
      </div>
    );
  return (
    <fieldset className="mt-1.5 max-h-52 overflow-auto rounded-md border border-hair bg-sunk px-3 py-2">
      <legend className="px-1 text-[13px] text-ink-2">
        {t("mail.whoGetsItThisTime", { name: target.name })}
      </legend>
      {data === undefined ? (
        <p className="text-ink-3">{t("mail.fetching")}</p>
      ) : (
        <ul className="grid gap-x-4 sm:grid-cols-2">
          {data.map(({ address, name }) => (
            <li key={address}>
              <label className="flex items-center gap-2 py-0.5">
                <input
                  type="checkbox"

                  checked={!leftOut.includes(address)}
                  onChange={(event) =>
                    onLeaveOut(
                      event.target.checked
                        ? leftOut.filter((candidate) => candidate !== address)
                        : [...leftOut, address],
                    )
                  }
                />
                <span className="min-w-0 truncate" title={address}>
                  {name === "" ? "" : <b className="font-[560]">{name} </b>}
                  <span className="mono text-ink-2">{address}</span>
                </span>
              </label>
            </li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}

function TargetOptions({ open }: { open: TargetHit[] }) {
  return (
    <ComboboxOptions
      modal={false}
      anchor={{ to: "bottom start", gap: 4 }}
      className="z-30 max-h-80! w-(--input-width) min-w-[min(30rem,90vw)] overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg empty:invisible"
    >
      {open.map((hit) => (
        <ComboboxOption
          key={`${hit.kind} ${hit.id}`}
          value={hit}
          className="flex cursor-pointer items-center gap-2.5 px-3 py-1.5 data-focus:bg-petrol-soft"
        >
          <Sign many={hit.many} />
          <b className="font-[620]">{hit.name}</b>
          <span
            className={`min-w-0 flex-1 truncate text-ink-2 ${hit.kind === "private" ? "text-[13px]" : "mono"}`}
          >
            {hit.detail}
          </span>
        </ComboboxOption>
      ))}
    </ComboboxOptions>
  );
}
