import { t } from "../texts/sources";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import type { Dropped } from "./dropped";

export function ReadingProgress({
  dropped,
  stop,
  onDone,
}: {
  dropped: Dropped;
  stop: () => void;
  onDone: (told?: string) => void;
}) {
  return (
    <Panel className="flex flex-1 flex-col items-center justify-center gap-3">
      <p role="status">{t("sources.reading", { name: dropped.file.name })}</p>
      <div className="h-1 w-48 overflow-hidden rounded bg-hair">
        <div className="h-full w-1/2 animate-pulse bg-petrol" />
      </div>
      <Button
        onClick={() => {
          stop();
          onDone();
        }}
      >
        {t("sources.stop")}
      </Button>
    </Panel>
  );
}
