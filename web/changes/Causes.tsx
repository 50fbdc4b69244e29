import { memo } from "react";
import type { CauseLine } from "@amigo/contract/causes";
import { useCausesInfiniteQuery, type CausesOfRound } from "../data/rounds";
import { Button } from "../ui/Button";
import { FaultLine, Loading } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { t } from "../texts/changes";
import { Decision, Sums, type Decide } from "./Decision";

/** How high the line of a cause is where its words have room, in pixels. */
const ROW = 57;

/** What the lines of causes have in common, wherever they stand. */
export interface CauseLines {
  /** The position of the cause that is chosen. */
  chosen: number | undefined;
  decidable: boolean;
  onChoose: (cause: CauseLine) => void;
  onDecide: Decide;
}

/** The causes of a section or of one class of it, a page at a time. */
export function Causes({
  of,
  count,
  chosen,
  decidable,
  onChoose,
  onDecide,
}: CauseLines & { of: CausesOfRound; count: number }) {
  const { data, error, fetchNextPage, hasNextPage, isFetchingNextPage } =
    useCausesInfiniteQuery(of);
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Awaited count={count} />;
  const causes = data.pages.flatMap((page) => page.causes);
  return (
    <>
      {causes.map((cause) => (
        <CauseRow
          key={cause.position}
          cause={cause}
          chosen={cause.position === chosen}
          decidable={decidable}
          onChoose={onChoose}
          onDecide={onDecide}
        />
      ))}
      {hasNextPage && (
        <p className="border-b border-hair-soft px-3.5 py-2">
          <Button look="quiet" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            {t("changes.showMoreChanges", { left: Math.max(count - causes.length, 1) })}
          </Button>
        </p>
      )}
    </>
  );
}

/** As much room as the causes will take, so that nothing moves once they are there. */
function Awaited({ count }: { count: number }) {
  return (
    <div aria-busy="true" style={{ height: `${Math.min(count, 100) * ROW}px` }}>
      <div className="sr-only">
        <Loading what={t("changes.changes2")} />
      </div>
    </div>
  );
}

/** The line of a cause. Many stand below each other, so it is made anew only when something of it has changed. */
const CauseRow = memo(function CauseRow({
  cause,
  chosen,
  decidable,
  onChoose,
  onDecide,
}: {
  cause: CauseLine;
  chosen: boolean;
  decidable: boolean;
  onChoose: (cause: CauseLine) => void;
  onDecide: Decide;
}) {
  return (
    <div
      id={`cause-${cause.position}`}
      className={`flex items-start gap-3 border-b border-hair-soft py-2 pr-3.5 ${chosen ? "border-l-[3px] border-l-petrol bg-petrol-soft pl-[11px]" : "pl-3.5 hover:bg-sunk"}`}
    >
      <Decision
        counts={{ count: 1, accepted: cause.decision === "accepted" ? 1 : 0 }}
        label={`${cause.title}: ${cause.detail}`}
        decidable={decidable}
        onDecide={(decision) => onDecide(cause, decision)}
      />
      <button
        type="button"
        aria-current={chosen}
        onClick={() => onChoose(cause)}
        className="flex min-w-0 flex-1 items-baseline gap-2 text-left focus-visible:-outline-offset-2"
      >
        <span className="min-w-0 flex-1">
          <b className="block truncate font-[620]">{cause.title}</b>
          <span className="block text-[13px] text-ink-2 wrap-anywhere">{cause.detail}</span>
        </span>
        <span className="text-right whitespace-nowrap">
          {cause.unreachable ? <Warn>{t("changes.unreachable")}</Warn> : <Sums of={cause} />}
          {cause.lists > 0 && (
            <span className="block text-[13px] text-ink-3">
              {t("changes.lists", { lists: cause.lists })}
            </span>
          )}
        </span>
      </button>
    </div>
  );
});
