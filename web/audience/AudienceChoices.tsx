import { useId } from "react";
import type { AudienceWords } from "@amigo/contract/audiences";
import { COMPARISONS, type SpotKind } from "@amigo/core/audience/audience";
import type { ChosenGroup } from "@amigo/core/audience/choices";
import type { Each } from "@amigo/core/lists/recipe";
import { Rich, t } from "../texts/ui";
import { Choice } from "../ui/Choice";
import { ConditionButton } from "./ConditionButton";

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

type PartProps = {
  label: string;
  group: ChosenGroup;
  words: AudienceWords;
  onChange: (group: ChosenGroup) => void;
};

export function PlaceChoice({
  label,
  group,
  words,
  each,
  onChange,
}: PartProps & { each: Each | "" }) {
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

export function ConditionChoice({ label, group, words, onChange }: PartProps) {
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

/** What "this" is in a recipe; undefined for a list of its own and for one in all. */
export function thisKind(each: Each | ""): SpotKind | undefined {
  return each === "" || each === "house" ? undefined : each;
}
