import { useEffect, useMemo, useRef, useState } from "react";
import { say } from "@amigo/language/say";
import type { SourceLine } from "@amigo/contract/sources";
import { useMe } from "../data/me";
import { useKnownWordsQuery, useMatchMutation, useSourceQuery } from "../data/sources";
import type { Dropped } from "./dropped";
import { NEW } from "./ImportQuestions";
import type { OpenedSheet } from "./sheetReader";
import { useSheetReader } from "./useSheetReader";

/** A sheet that was dropped, opened in a worker, with the source that it goes to and the cells to look at. */
export function useDraft(
  dropped: Dropped,
  sources: readonly SourceLine[],
  into: string | undefined,
) {
  const { ask, stop, busy, opened, fault } = useSheetReader();
  const isAlone = dropped.kind === "web" || dropped.kind === "watched" || sources.length === 0;
  const { target, setTarget, candidates } = useTarget(opened, sources, into, isAlone);
  const goesOn = target !== undefined && target !== NEW;
  const known = useSourceQuery(target ?? NEW, { skip: !goesOn });
  const last = known.currentData?.plan ?? undefined;
  const words = useKnownWordsQuery();
  const waiting =
    (goesOn && known.currentData === undefined) || (words.isLoading && words.data === undefined);
  // Once: what somebody has answered must not go because another import brought new words.
  const [houseWords, setHouseWords] = useState(words.data);
  if (houseWords === undefined && words.data !== undefined) setHouseWords(words.data);
  const [unlike, setUnlike] = useState<string>();
  const targetName = sources.find(({ id }) => id === target)?.name;
  if (opened?.strange === true && goesOn && unlike === undefined && targetName !== undefined)
    setUnlike(targetName);
  const { timeZone, season, listDomain } = useMe();
  const [openedWith, setOpenedWith] = useState<typeof last | null>(null);
  useEffect(() => {
    if (waiting) return undefined;
    let gone = false;
    void dropped.file.arrayBuffer().then((bytes) => {
      if (gone) return;
      setOpenedWith(last);
      ask({
        ask: "open",
        bytes,
        last,
        file: dropped.file.name,
        context: { timeZone, season, listDomain },
        known: houseWords,
      });
    });
    return () => {
      gone = true;
    };
  }, [ask, dropped.file, last, waiting, timeZone, season, listDomain, houseWords]);
  const faults = useMemo(() => faultsIn(opened), [opened]);
  return {
    ask,
    stop,
    opened,
    fault,
    faults,
    busy,
    // Until it is compared with the last import of its source, what is said of it may still change.
    isSettling: busy || waiting || openedWith !== last,
    target,
    setTarget,
    candidates,
    unlike,
  };
}

/** The source that a sheet goes to. It is found once, by every source's last sheet; after that the person's own choice stands. */
function useTarget(
  opened: OpenedSheet | undefined,
  sources: readonly SourceLine[],
  into: string | undefined,
  isAlone: boolean,
) {
  const [target, setTarget] = useState(into ?? (isAlone ? NEW : undefined));
  const [candidates, setCandidates] = useState<readonly string[]>();
  const [match] = useMatchMutation();
  const matching = useRef(false);
  useEffect(() => {
    if (opened === undefined || target !== undefined || matching.current) return;
    matching.current = true;
    void match({
      columns: opened.plan.columns,
      others: opened.read.slice(1).map(({ name }) => name),
      names: opened.names,
      oneIn: opened.oneIn,
    }).then(({ data }) => {
      if (data?.is === "the next of") setTarget(data.source);
      else if (data?.is === "new") setTarget(NEW);
      else setCandidates(data?.sources ?? sources.map(({ id }) => id));
    });
  }, [match, opened, sources, target]);
  return { target, setTarget, candidates };
}

/** Returns the cells to look at, with the place of their sheet among those that are read. */
function faultsIn(opened: OpenedSheet | undefined) {
  return (opened?.faults ?? []).map((fault) => ({
    ...fault,
    sentence: say(fault.sentence),
    why: say(fault.why),
    sheet: Math.max(opened?.read.findIndex(({ name }) => name === fault.sheet) ?? 0, 0),
    proposal: fault.proposal ?? null,
  }));
}

export type DraftFault = ReturnType<typeof faultsIn>[number];
