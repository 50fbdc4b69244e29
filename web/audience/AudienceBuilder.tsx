import { X } from "lucide-react";
import { useState } from "react";
import type { AudienceWords } from "@amigo/contract/audiences";
import {
  CHOOSABLE,
  choicesOf,
  NEW_GROUP,
  textOfChoices,
  type Choices,
  type Choosable,
  type ChosenGroup,
} from "@amigo/core/audience/choices";
import { parseAudience } from "@amigo/core/audience/parseAudience";
import type { Each } from "@amigo/core/lists/recipe";
import { useAudienceWordsQuery } from "../data/edits";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { PlaceChoice, ConditionChoice, thisKind } from "./AudienceChoices";

const WHO: Record<Choosable, string> = {
  guardians: t("ui.parentsOfStudents"),
  students: t("ui.students"),
  coaches: t("ui.coaches"),
  leads: t("ui.leads"),
  staff: t("ui.staff2"),
  person: t("ui.onePerson"),
};

/**
 * Who belongs on a list, as lines of choices that read as a sentence and write the same text. A text that says more
 * than they can is left alone.
 */
export function AudienceBuilder({
  value,
  onChange,
  each,
}: {
  value: string;
  onChange: (text: string) => void;
  each: Each | "";
}) {
  const { data: words } = useAudienceWordsQuery();
  const [draft, setDraft] = useState<{ text: string; choices: Choices }>();
  if (words === undefined) return null;
  // A line that is not finished is in no text yet, so it is kept here as long as the text is the one written.
  const choices = draft?.text === value ? draft.choices : read(value);
  if (choices === undefined)
    return (
      <p className="text-[13px] text-ink-3">
        {parseAudience(value).ok ? t("ui.thisTextSaysMoreThan") : t("ui.choicesComeBack")}
      </p>
    );
  const change = (part: Partial<Choices>): void => {
    const next = { ...choices, ...part };
    const text = textOfChoices(next);
    setDraft({ text, choices: next });
    onChange(text);
  };
  return (
    <div className="flex flex-col gap-1.5">
      <Lines
        label={t("ui.belongs")}
        groups={choices.groups}
        words={words}
        each={each}
        onChange={(groups) => change({ groups })}
      />
      {choices.except.length > 0 && (
        <>
          <p className="text-[13px] text-ink-2">{t("ui.butNot")}</p>
          <Lines
            label={t("ui.leftOut")}
            groups={choices.except}
            words={words}
            each={each}
            onChange={(except) => change({ except })}
          />
        </>
      )}
      <div className="flex flex-wrap gap-1.5">
        <Add
          name={choices.groups.length === 0 ? t("ui.chooseAGroup") : t("ui.addAGroup")}
          each={each}
          onAdd={(group) => change({ groups: [...choices.groups, group] })}
        />
        {choices.groups.length > 0 && (
          <Add
            name={t("ui.leaveSomebodyOut")}
            each={each}
            onAdd={() => change({ except: [...choices.except, { ...NEW_GROUP, who: "person" }] })}
          />
        )}
      </div>
    </div>
  );
}

/** The choices that a text means; none for an empty one, undefined where it says more or is not finished. */
function read(text: string): Choices | undefined {
  if (text.trim() === "") return { groups: [], except: [] };
  const parsed = parseAudience(text);
  return parsed.ok ? choicesOf(parsed.audience) : undefined;
}

function Add({
  name,
  each,
  onAdd,
}: {
  name: string;
  each: Each | "";
  onAdd: (group: ChosenGroup) => void;
}) {
  const kind = thisKind(each);
  return (
    <Button
      className="min-h-[26px]! px-2! text-[13px]"
      onClick={() =>
        onAdd({ ...NEW_GROUP, place: kind === undefined ? undefined : { kind, name: undefined } })
      }
    >
      {name}
    </Button>
  );
}

function Lines({
  label,
  groups,
  words,
  each,
  onChange,
}: {
  label: string;
  groups: readonly ChosenGroup[];
  words: AudienceWords;
  each: Each | "";
  onChange: (groups: ChosenGroup[]) => void;
}) {
  return (
    <ul aria-label={label} className="flex flex-col gap-1.5">
      {groups.map((group, at) => (
        <li key={at}>
          <Line
            label={t("ui.line", { label, number: at + 1 })}
            group={group}
            words={words}
            each={each}
            onChange={(next) =>
              onChange(groups.map((chosenGroup, index) => (index === at ? next : chosenGroup)))
            }
            onRemove={() => onChange(groups.filter((_, index) => index !== at))}
          />
        </li>
      ))}
    </ul>
  );
}

function Line({
  label,
  group,
  words,
  each,
  onChange,
  onRemove,
}: {
  label: string;
  group: ChosenGroup;
  words: AudienceWords;
  each: Each | "";
  onChange: (group: ChosenGroup) => void;
  onRemove: () => void;
}) {
  return (
    <div className="flex items-start gap-1.5">
      <div className="flex min-w-0 flex-wrap items-center gap-1.5">
        <Choice
          small
          label={t("ui.who", { label })}
          value={group.who}
          onChange={(who) => onChange({ ...group, who })}
          options={CHOOSABLE.map((who) => ({ value: who, name: WHO[who] }))}
        />
        {group.who === "person" ? (
          <>
            <input
              aria-label={t("ui.name2", { label })}
              placeholder={t("ui.firstNameAndSurname")}
              value={group.person.name}
              onChange={(event) =>
                onChange({ ...group, person: { name: event.target.value, hint: "" } })
              }
              className="h-[26px] w-56 rounded-md border border-hair bg-panel px-2 text-[13px]"
            />
            {group.person.hint !== "" && <span>({group.person.hint})</span>}
          </>
        ) : (
          <>
            <PlaceChoice
              label={label}
              group={group}
              words={words}
              each={each}
              onChange={onChange}
            />
            <ConditionChoice label={label} group={group} words={words} onChange={onChange} />
          </>
        )}
      </div>
      <button
        type="button"
        aria-label={t("ui.remove", { label })}
        onClick={onRemove}
        className="flex size-[26px] shrink-0 items-center justify-center rounded text-ink-3 hover:bg-sunk hover:text-ink"
      >
        <X size={14} aria-hidden="true" />
      </button>
    </div>
  );
}
