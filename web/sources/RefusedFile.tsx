import { t } from "../texts/sources";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import type { Dropped } from "./dropped";

export function RefusedFile({
  dropped,
  sentence,
  onDone,
}: {
  dropped: Dropped;
  sentence: string;
  onDone: () => void;
}) {
  return (
    <Panel className="flex flex-1 items-center justify-center">
      <div className="flex max-w-lg flex-col items-start gap-3 p-8">
        <h2 className="wrap-anywhere">
          {t("sources.cantBeImported", { name: dropped.file.name })}
        </h2>
        <p role="alert" className="rounded-md border border-brick bg-brick-soft px-3 py-2">
          <b className="text-brick">! </b>
          {sentence}
        </p>
        <p className="text-ink-2">{t("sources.nothingWasKeptYouCan")}</p>
        <Button onClick={() => onDone()}>{t("sources.close")}</Button>
      </div>
    </Panel>
  );
}
