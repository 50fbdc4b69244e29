import { X } from "lucide-react";
import { useId, useState } from "react";
import type { AudienceWords } from "@amigo/contract/audiences";
import { COMPARISONS, type SpotKind } from "@amigo/core/audience/audience";
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
import { Rich } from "../texts/Rich";
import { t } from "../texts/t";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { ConditionButton } from "./ConditionButton";

const WHO: Record<Choosable, string> = {
  guardians: t("ui.parentsOfStudents"),
  students: t("ui.students"),
  coaches: t("ui.coaches"),
  leads: t("ui.leads"),
  staff: t("ui.staff2"),
  person: t("ui.onePerson"),
};
const COMPARE: Record<(typeof COMPARISONS)[number], string> = {
  is: "is",
  "is not": t("ui.isNot"),
  "<": t("ui.isBelow"),
  "<=": t("ui.isAtMost"),
  ">": t("ui.isAbove"),
  ">=": t("ui.isAtLeast"),
  contains: "contains",
  "is one of": t("ui.isOneOf"),
};
/** A value of the choice of places that is no place. */
const EVERYWHERE = "";

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

/** What "this" is in a recipe; undefined for a list of its own and for one in all. */
function thisKind(each: Each | ""): SpotKind | undefined {
  return each === "" || each === "house" ? undefined : each;
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

type PartProps = {
  label: string;
  group: ChosenGroup;
  words: AudienceWords;
  onChange: (group: ChosenGroup) => void;
};

function PlaceChoice({ label, group, words, each, onChange }: PartProps & { each: Each | "" }) {
  const places = placesOf(words, thisKind(each));
  const chosen = group.place;
  const index =
    chosen === undefined
      ? -1
      : places.findIndex(
          ({ place }) =>
            same(place.name, chosen.name) && (chosen.kind ?? place.kind) === place.kind,
        );
  // A place that is not known here is shown as it is written, so that nothing changes by looking.
  const found =
    chosen !== undefined && index < 0
      ? [
          {
            value: "own",
            name: t("ui.in", {
              name: chosen.name ?? t("ui.this", { kind: chosen.kind ?? "class" }),
            }),
          },
        ]
      : [];
  return (
    <Choice
      small
      label={t("ui.where", { label })}
      value={chosen === undefined ? EVERYWHERE : index < 0 ? "own" : String(index)}
      onChange={(value) => {
        if (value === "own") return;
        onChange({
          ...group,
          place: value === EVERYWHERE ? undefined : places[Number(value)]?.place,
        });
      }}
      options={[
        { value: EVERYWHERE, name: t("ui.everywhere") },
        ...found,
        ...places.map(({ name }, at) => ({ value: String(at), name })),
      ]}
      className="max-w-64"
    />
  );
}

const same = (a: string | undefined, b: string | undefined): boolean =>
  a?.toLowerCase() === b?.toLowerCase();

function placesOf(
  words: AudienceWords,
  kind: SpotKind | undefined,
): { name: string; place: NonNullable<ChosenGroup["place"]> }[] {
  return [
    ...(kind === undefined
      ? []
      : [{ name: t("ui.inThis", { kind }), place: { kind, name: undefined } }]),
    ...words.cohorts.map((cohort) => ({
      name: t("ui.in2", { name: cohort.name, kind: cohort.kind }),
      place: { kind: cohort.kind, name: cohort.name },
    })),
    ...words.sites.map((name) => ({
      name: t("ui.at2", { name }),
      place: { kind: "site" as const, name },
    })),
    ...words.levels.map((name) => ({
      name: t("ui.ofLevel", { name }),
      place: { kind: "level" as const, name },
    })),
  ];
}

function ConditionChoice({ label, group, words, onChange }: PartProps) {
  const id = useId();
  const { condition } = group;
  const [first] = words.columns;
  if (condition === undefined)
    return first === undefined ? null : (
      <ConditionButton onChange={onChange} group={group} first={first} label={label} />
    );
  const set = (part: Partial<typeof condition>): void =>
    onChange({ ...group, condition: { ...condition, ...part } });
  const column = words.columns.find(({ name }) => same(name, condition.column));
  return (
    <>
      <span className="text-[13px] text-ink-2">{t("ui.whose")}</span>
      <Choice
        small
        label={t("ui.column", { label })}
        value={column?.name ?? condition.column}
        onChange={(name) =>
          set({
            column: name,
            value:
              words.columns.find((candidate) => candidate.name === name)?.values[0] ??
              condition.value,
          })
        }
        options={[
          ...(column === undefined ? [{ value: condition.column, name: condition.column }] : []),
          ...words.columns.map(({ name }) => ({ value: name, name })),
        ]}
        className="max-w-44"
      />
      <Choice
        small
        label={t("ui.comparison", { label })}
        value={condition.comparison}
        onChange={(comparison) => set({ comparison })}
        options={COMPARISONS.filter(
          (comparison) => comparison !== "is one of" || condition.comparison === comparison,
        ).map((comparison) => ({ value: comparison, name: COMPARE[comparison] }))}
      />
      <input
        aria-label={t("ui.value", { label })}
        list={id}
        value={condition.value}
        onChange={(event) => set({ value: event.target.value })}
        className="h-[26px] w-32 rounded-md border border-hair bg-panel px-2 text-[13px]"
      />
      <datalist id={id}>
        {column?.values.map((value) => (
          <option key={value} value={value} />
        ))}
      </datalist>
      <button
        type="button"
        onClick={() => onChange({ ...group, condition: undefined })}
        className="rounded px-1 text-[13px] text-petrol underline underline-offset-2"
      >
        <Rich
          id="ui.noConditionIn"
          label={label}
          span={(chunks) => <span className="sr-only">{chunks}</span>}
        />
      </button>
    </>
  );
}
