import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { shallowEqual, useSelector } from "react-redux";
import { useSearchParams } from "react-router";
import { CLASSES, type CauseLine, type CausePage, type RoundOutline } from "@amigo/contract/causes";
import type { RoundPage } from "@amigo/contract/rounds";
import { causePages, useCauseQuery, useOutlineQuery, type CausesOfRound } from "../data/rounds";
import { useStore, type store } from "../data/store";
import { FILTERS, type CauseFilter } from "./Filters";

type Section = RoundOutline["sections"][number];

/** What of a cause is needed to decide it and to find it in the list; of one that stands on no page that was fetched, too. */
export type ChosenLine = Pick<CauseLine & CausePage, "position" | "key" | "kind" | "group">;

/** The name by which a class of a section is known as open. */
export function classKey(section: string, name: string): string {
  return `${section} ${name}`;
}

/** Which causes stand in a section, or in one class of it. */
export function causesIn(
  all: CausesOfRound,
  section: string,
  name: string | undefined,
): CausesOfRound {
  return { ...all, section, ...(name === undefined ? {} : { group: name }) };
}

/** What of a round is on the screen: the filter and the chosen change, which stand in the URL, and the classes that are open. */
export function useRoundView(round: RoundPage) {
  const [search] = useSearchParams();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const { number } = round;
  const [list, group, kind, source] = FILTERS.map((name) => search.get(name) ?? "");
  const filter = useMemo<CauseFilter>(
    () => ({ list: list ?? "", group: group ?? "", kind: kind ?? "", source: source ?? "" }),
    [list, group, kind, source],
  );
  const all = useMemo(() => ({ round: number, ...onlyGiven(filter) }), [number, filter]);
  const setParam = useParam();
  const { data: outline, error } = useOutlineQuery(all);
  const sections = outline?.sections ?? [];
  const shown = useShownCauses(openPlaces(all, sections, opened));
  const asked = search.get("cause");
  const first = shown.causes[0]?.position;
  const wanted = asked === null ? first : Number(asked);
  const { data: page, error: missing } = useCauseQuery(
    { round: number, position: wanted ?? 0, version: round.version },
    { skip: wanted === undefined },
  );
  // An address that leads to a change of another round, or to one that is gone, shows the first instead.
  const position = missing === undefined ? wanted : first;
  const at = shown.causes.findIndex((cause) => cause.position === position);
  // Its page first, for that is what the person reads: an import may have put another change into its place in the list.
  const chosen: ChosenLine | undefined = page?.position === position ? page : shown.causes[at];
  const choose = useCallback(
    (cause: ChosenLine | undefined): void => {
      if (cause !== undefined) setParam("cause", String(cause.position));
    },
    [setParam],
  );
  const toggle = useCallback((key: string): void => {
    setOpened((before) => {
      const next = new Set(before);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  }, []);
  useEffect(() => {
    if (asked !== null)
      document.getElementById(`cause-${asked}`)?.scrollIntoView({ block: "nearest" });
  }, [asked]);
  return {
    all,
    /** Whether the changes that stand first are still to come. */
    isLoading: outline === undefined || shown.isLoading,
    filter,
    setFilter: setParam,
    outline,
    error,
    position,
    chosen,
    /** Whether somebody has chosen a change, rather than the first one standing there. */
    isAsked: asked !== null && position !== undefined,
    page,
    /** Today's row of the chosen change, where a cell can be corrected. */
    rowNow:
      page?.position === position ? page?.evidence.find(({ when }) => when === "now") : undefined,
    opened,
    toggle,
    choose,
    chooseNext: (): void => void shown.after(at).then((next) => choose(next ?? shown.causes[at])),
    chooseBefore: (): void => choose(shown.causes[Math.max(at - 1, 0)]),
    chooseAfter: (): void => void shown.after(at).then(choose),
    /** Opens or closes the class of the chosen change; without one, opens the first that is closed. */
    toggleClass: (): void => {
      const next = classToToggle(sections, opened, chosen);
      if (next !== undefined) toggle(next);
    },
  };
}

export type RoundView = ReturnType<typeof useRoundView>;

/** Sets what stands in the URL. It stays the same function, whatever is set, so that what calls it needn't be made anew. */
function useParam(): (name: string, value: string) => void {
  const [, setSearch] = useSearchParams();
  const latest = useRef(setSearch);
  useEffect(() => {
    latest.current = setSearch;
  }, [setSearch]);
  return useCallback((name, value) => {
    latest.current(
      (before) => {
        if (name !== "cause") before.delete("cause");
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  }, []);
}

function onlyGiven(filter: CauseFilter): Partial<CauseFilter> {
  return Object.fromEntries(
    FILTERS.flatMap((name) => (filter[name] ? [[name, filter[name]]] : [])),
  );
}

/** The causes of which each line is on the screen, by the pages that were asked for: sections of few, and open classes. */
function openPlaces(
  all: CausesOfRound,
  sections: readonly Section[],
  opened: ReadonlySet<string>,
): CausesOfRound[] {
  return sections.flatMap((section) =>
    section.classes === null
      ? [causesIn(all, section.key, undefined)]
      : section.classes.flatMap(({ name }) =>
          opened.has(classKey(section.key, name)) ? [causesIn(all, section.key, name)] : [],
        ),
  );
}

/** The causes that are on the screen so far, one after the other, and how to get at the one after: from the next page where need be. */
function useShownCauses(places: readonly CausesOfRound[]) {
  const dispatch = useStore();
  const pages = useSelector(
    (state: ReturnType<typeof store.getState>) =>
      places.map((place) => causePages.select(place)(state).data),
    shallowEqual,
  );
  const ofPlace = pages.map((data) => data?.pages.flatMap(({ causes }) => causes) ?? []);
  const causes = ofPlace.flat();
  /** Returns the cause that follows the one at an index; undefined after the last. */
  const after = async (at: number): Promise<CauseLine | undefined> => {
    let end = -1;
    const place = ofPlace.findIndex((some) => (end += some.length) >= at);
    const asked = places[place];
    const hasMore = (pages[place]?.pages.at(-1)?.next ?? null) !== null;
    if (asked === undefined || at !== end || !hasMore) return causes[at + 1];
    const more = await dispatch(
      causePages.initiate(asked, { direction: "forward", subscribe: false }),
    );
    return more.data?.pages.flatMap((page) => page.causes)[ofPlace[place]?.length ?? 0];
  };
  return { causes, after, isLoading: pages.length > 0 && pages[0] === undefined };
}

function classToToggle(
  sections: readonly Section[],
  opened: ReadonlySet<string>,
  chosen: ChosenLine | undefined,
): string | undefined {
  const classes = sections.flatMap((section) =>
    (section.classes ?? []).map(({ name }) => ({ section, name })),
  );
  const found =
    chosen === undefined
      ? classes.find(({ section, name }) => !opened.has(classKey(section.key, name)))
      : (classes.find(
          ({ section, name }) => section.key === chosen.kind && name === chosen.group,
        ) ?? classes.find(({ section, name }) => section.key === CLASSES && name === chosen.group));
  return found === undefined ? undefined : classKey(found.section.key, found.name);
}
