import { useState } from "react";
import { useSearchParams } from "react-router";
import type { CauseLine, RoundPage } from "@amigo/contract/rounds";
import { useCauseQuery } from "../data/rounds";
import { FILTERS, passes, type CauseFilter } from "./Filters";
import { groupCauses, groupKey } from "./groupCauses";

/** What of a round is on the screen: the filter and the chosen change, which stand in the URL, and the classes that are open. */
export function useRoundView(round: RoundPage) {
  const [search, setSearch] = useSearchParams();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const filter: CauseFilter = {
    list: search.get("list") ?? "",
    group: search.get("group") ?? "",
    kind: search.get("kind") ?? "",
    source: search.get("source") ?? "",
  };
  const setParam = (name: string, value: string): void =>
    setSearch(
      (before) => {
        if (name !== "cause") before.delete("cause");
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const isFiltered = FILTERS.some((name) => filter[name] !== "");
  const shown = isFiltered ? round.causes.filter((cause) => passes(cause, filter)) : round.causes;
  const isByClass = round.classes.length > 0;
  const groups = groupCauses(shown, isByClass);
  const visible = groups.flatMap((group) =>
    group.classes === undefined
      ? group.causes
      : group.classes.flatMap(({ name, causes }) =>
          opened.has(`${group.key} ${name}`) ? causes : [],
        ),
  );
  const asked = search.get("cause");
  const chosen = shown.find(({ position }) => String(position) === asked) ?? visible[0];
  const { data: page } = useCauseQuery(
    { round: round.number, position: chosen?.position ?? 0, version: round.version },
    { skip: chosen === undefined },
  );
  const at = visible.findIndex((cause) => cause === chosen);
  const choose = (cause: CauseLine | undefined): void => {
    if (cause === undefined) return;
    setParam("cause", String(cause.position));
    document.getElementById(`cause-${cause.position}`)?.scrollIntoView({ block: "nearest" });
  };
  return {
    filter,
    setFilter: setParam,
    isFiltered,
    shown,
    groups,
    chosen,
    /** Whether somebody has chosen a change, rather than the first one standing there. */
    isAsked: asked !== null && chosen !== undefined,
    page,
    /** Today's row of the chosen change, where a cell can be corrected. */
    rowNow:
      page?.position === chosen?.position
        ? page?.evidence.find(({ when }) => when === "now")
        : undefined,
    opened,
    setOpened,
    choose,
    chooseNext: (): void => choose(visible[Math.min(at + 1, visible.length - 1)]),
    chooseBefore: (): void => choose(visible[Math.max(at - 1, 0)]),
    chooseAfter: (): void => choose(visible[at + 1]),
    /** Opens or closes the class of the chosen change; without one, opens the first that is closed. */
    toggleClass: (): void => {
      const next =
        chosen === undefined
          ? groups
              .flatMap(({ key, classes }) => (classes ?? []).map(({ name }) => `${key} ${name}`))
              .find((key) => !opened.has(key))
          : `${groupKey(chosen.kind, isByClass)} ${chosen.group}`;
      if (next === undefined) return;
      setOpened(
        opened.has(next)
          ? new Set([...opened].filter((key) => key !== next))
          : new Set([...opened, next]),
      );
    },
  };
}

export type RoundView = ReturnType<typeof useRoundView>;
