import { useProgress } from "../data/progress";
import { Button } from "./Button";
import { t } from "../texts/ui";

/** How far a long task is, with a way to stop it. */
export function Progress({ what, onStop }: { what: string; onStop: () => void }) {
  const told = useProgress();
  const share = Math.round((told?.share ?? 0) * 100);
  return (
    <div className="flex items-center gap-3" role="status">
      <div className="min-w-0 flex-1">
        <span className="block truncate">{told === null ? what : `${told.step} …`}</span>
        <span
          role="progressbar"
          aria-label={what}
          aria-valuenow={share}
          aria-valuemin={0}
          aria-valuemax={100}
          className="mt-1 block h-1.5 overflow-hidden rounded bg-hair"
        >
          <span
            className="block h-full bg-petrol transition-[width]"
            style={{ width: `${Math.max(share, 3)}%` }}
          />
        </span>
      </div>
      <Button onClick={onStop}>{t("ui.stop")}</Button>
    </div>
  );
}
