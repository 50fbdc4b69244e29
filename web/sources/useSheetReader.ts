import { written } from "@amigo/language/message";
import { useCallback, useEffect, useRef, useState } from "react";
import type { FileFault } from "@amigo/core/sheet/sheet";
import type { OpenedSheet, SheetAnswer, SheetRequest } from "./sheetReader";
import { t } from "../texts/sources";

type WithoutId<Request> = Request extends { id: number } ? Omit<Request, "id"> : never;

/** Reads sheets in a web worker, so that the page stays quick. Stopping ends the worker at once. */
export function useSheetReader() {
  const worker = useRef<Worker>(undefined);
  const latest = useRef(0);
  const [busy, setBusy] = useState(false);
  const [opened, setOpened] = useState<OpenedSheet>();
  const [fault, setFault] = useState<FileFault>();
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
    setBusy(false);
  }, []);
  const ask = useCallback((request: WithoutId<SheetRequest>) => {
    worker.current ??= new Worker(new URL("./readSheet.worker.ts", import.meta.url), {
      type: "module",
    });
    const id = ++latest.current;
    worker.current.onmessage = ({ data }: MessageEvent<SheetAnswer>) => {
      if (data.id !== latest.current) return;
      setBusy(false);
      setFault(data.ok ? undefined : data.fault);
      if (data.ok) setOpened(data.opened);
    };
    worker.current.onerror = () => {
      setBusy(false);
      setFault({
        code: "broken-file",
        sentence: written(t("sources.thisFileCouldNotBe")),
      });
    };
    setBusy(true);
    worker.current.postMessage({ id, ...request });
  }, []);
  const clear = useCallback(() => {
    stop();
    setOpened(undefined);
    setFault(undefined);
  }, [stop]);
  useEffect(() => stop, [stop]);
  return { ask, stop, clear, busy, opened, fault };
}
