import { inOrder } from "@amigo/language/inOrder";
import { useMemo } from "react";
import type { RoundChoices } from "@amigo/contract/causes";
import type { RoundPage } from "@amigo/contract/rounds";
import { useChoicesQuery } from "../data/rounds";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { LongChoice } from "../ui/LongChoice";
import { kindTitle } from "./kindTitle";
import { t } from "../texts/changes";

/** Which causes are shown; an empty text shows all. Stands in the address of the page. */
export interface CauseFilter {
  list: string;
  group: string;
  kind: string;
  source: string;
}

export const FILTERS = ["list", "group", "kind", "source"] as const;

/** Where there are more options than this, the person types to find one. */
const MANY = 40;

/** Choices of list, class, kind and source, of those that the round has. */
export function Filters({
  round,
  filter,
  onFilter,
  shown,
}: {
  round: RoundPage;
  filter: CauseFilter;
  onFilter: (name: keyof CauseFilter, value: string) => void;
  shown: number | undefined;
}) {
  const { data: choices } = useChoicesQuery(round.number);
  const options = useMemo(() => optionsOf(choices), [choices]);
  const labels = {
    list: t("changes.allLists"),
    group: t("changes.allClasses"),
    kind: t("changes.allKinds"),
    source: t("changes.allSources"),
  };
  const only = {
    list: t("changes.showOnlyLists"),
    group: t("changes.showOnlyClasses"),
    kind: t("changes.showOnlyKinds"),
    source: t("changes.showOnlySources"),
  };
  const isFiltered = FILTERS.some((name) => filter[name] !== "");
  return (
    <div
      role="group"
      aria-label={t("changes.showOnly")}
      className="flex flex-wrap items-center gap-1.5"
    >
      {FILTERS.map((name) => {
        if (options[name].length < 2 && filter[name] === "") return null;
        const choice = {
          label: only[name],
          value: filter[name],
          onChange: (value: string) => onFilter(name, value),
          options: [{ value: "", name: labels[name] }, ...options[name]],
          className: "max-w-44",
        };
        return options[name].length > MANY ? (
          <LongChoice key={name} {...choice} />
        ) : (
          <Choice key={name} small {...choice} />
        );
      })}
      {isFiltered && shown !== undefined && (
        <span role="status" className="text-[13px] text-ink-2">
          {t("changes.ofShown", { shown, causes: round.causes })}{" "}
          <Button
            look="quiet"
            className="min-h-[26px]! px-2!"
            onClick={() => {
              for (const name of FILTERS) onFilter(name, "");
            }}
          >
            {t("changes.showAll")}
          </Button>
        </span>
      )}
    </div>
  );
}

function optionsOf(choices: RoundChoices | undefined) {
  const sorted = (values: readonly { value: string; name: string }[]) =>
    [...values].sort((a, b) => inOrder(a.name, b.name));
  const named = (value: string) => ({ value, name: value });
  return {
    list: sorted(Object.entries(choices?.lists ?? {}).map(([value, name]) => ({ value, name }))),
    group: sorted((choices?.groups ?? []).map(named)),
    kind: (choices?.kinds ?? []).map((value) => ({ value, name: kindTitle(value) })),
    source: sorted((choices?.sources ?? []).map(named)),
  };
}
