import type { FileUnderWay } from "../data/uploads";
import { t } from "../texts/shelf";
import { Button } from "../ui/Button";
import { percent } from "../ui/percent";

/** How much of a file has come, with a way to stop it. */
export function SendingFile({ file: { name, share, stop } }: { file: FileUnderWay }) {
  const shown = Math.round(share * 100);
  return (
    <div className="flex w-full items-center gap-3 text-[13px]">
      <span className="min-w-0 flex-1">
        <span className="flex gap-2">
          <span className="min-w-0 flex-1 truncate">{t("shelf.sending", { name })}</span>
          <span>{percent(shown)}</span>
        </span>
        <span
          role="progressbar"
          aria-label={name}
          aria-valuenow={shown}
          aria-valuemin={0}
          aria-valuemax={100}
          className="mt-1 block h-1.5 overflow-hidden rounded bg-hair"
        >
          <span
            className="block h-full bg-petrol transition-[width]"
            style={{ width: `${Math.max(shown, 3)}%` }}
          />
        </span>
      </span>
      <Button onClick={stop}>{t("ui.stop")}</Button>
    </div>
  );
}
