import { useRef } from "react";
import { useNavigate } from "react-router";
import type { SourceLine } from "@amigo/contract/sources";
import { useReadIntoMutation } from "../data/sources";
import { t } from "../texts/sources";
import type { Dropped } from "./dropped";
import { NEW } from "./ImportQuestions";
import type { OpenedSheet } from "./sheetReader";

/** What somebody has chosen about an import. */
export interface ImportWanted {
  plan: OpenedSheet["plan"];
  /** The source, or a new one by its name. */
  target: SourceLine["id"] | undefined;
  name: string;
  whole: boolean | undefined;
}

/** Imports a dropped file, and goes on to what it changed; can be stopped while it runs. */
export function useImport(dropped: Dropped, onDone: (told?: string) => void) {
  const navigate = useNavigate();
  const [read, { error, isLoading }] = useReadIntoMutation();
  const asked = useRef<{ abort: () => void }>(undefined);
  const run = async ({ plan, target, name, whole }: ImportWanted): Promise<void> => {
    const form = new FormData();
    form.set("file", dropped.file);
    form.set("plan", JSON.stringify(plan));
    form.set("whole", String(whole ?? ""));
    form.set("written", dropped.writtenAt ?? new Date(dropped.file.lastModified).toISOString());
    if (target === NEW) {
      form.set("name", name);
      form.set("kind", dropped.kind ?? "upload");
      form.set("location", dropped.location ?? "");
    }
    const request = read({ source: target === NEW ? undefined : target, form });
    asked.current = request;
    const { data } = await request;
    if (data === undefined) return;
    const { round, source, summary } = data;
    onDone(round === null ? t("sources.everyListAlreadyMatchesIt", { summary }) : undefined);
    void navigate(round === null ? `/sources/${source}` : "/changes", {
      state: { imported: summary },
    });
  };
  return {
    error,
    isLoading,
    run: (wanted: ImportWanted): void => void run(wanted),
    stop: (): void => asked.current?.abort(),
  };
}
