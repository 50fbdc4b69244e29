import { inOrder } from "@amigo/language/inOrder";
import { useMemo } from "react";
import type { CauseLine, RoundPage } from "@amigo/contract/rounds";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { kindTitle } from "./groupCauses";
import { t } from "../texts/changes";

/** Which causes are shown; an empty text shows all. Stands in the address of the page. */
export interface CauseFilter {
  list: string;
  group: string;
  kind: string;
  source: string;
}

export const FILTERS = ["list", "group", "kind", "source"] as const;

/** Whether a cause is shown. */
export function passes(cause: CauseLine, { list, group, kind, source }: CauseFilter): boolean {
  return (
    (list === "" || cause.listKeys.includes(list)) &&
    (group === "" || cause.group === group) &&
    (kind === "" || cause.kind === kind) &&
    (source === "" || cause.sources.includes(source))
  );
}

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
  shown: number;
}) {
  const options = useMemo(() => {
    const sorted = (values: Iterable<string>) =>
      [...new Set(values)].filter((value) => value !== "").sort((a, b) => inOrder(a, b));
    return {
      list: Object.entries(round.lists)
        .map(([value, name]) => ({ value, name }))
        .sort((a, b) => inOrder(a.name, b.name)),
      group: sorted(round.causes.map((cause) => cause.group)).map((value) => ({
        value,
        name: value,
      })),
      kind: [...new Set(round.causes.map((cause) => cause.kind))].map((value) => ({
        value,
        name: kindTitle(value),
      })),
      source: sorted(round.causes.flatMap(({ sources }) => sources)).map((value) => ({
        value,
        name: value,
      })),
    };
  }, [round]);
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
      {FILTERS.map(
        (name) =>
          (options[name].length > 1 || filter[name] !== "") && (
            <Choice
              key={name}
              small
              label={only[name]}
              value={filter[name]}
              onChange={(value) => onFilter(name, value)}
              options={[{ value: "", name: labels[name] }, ...options[name]]}
              className="max-w-44"
            />
          ),
      )}
      {isFiltered && (
        <span role="status" className="text-[13px] text-ink-2">
          {t("changes.ofShown", { shown, causes: round.causes.length })}{" "}
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
