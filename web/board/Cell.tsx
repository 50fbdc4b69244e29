import { Link } from "react-router";
import type { BoardCell } from "@amigo/contract/board";
import { Rich, t } from "../texts/board";
import { Warn, Plus, Minus } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";

export function Cell({
  cell,
  at,
  isFirst,
  label,
  dim,
  onMake,
}: {
  cell: BoardCell;
  at: string;
  isFirst: boolean;
  label: string;
  dim: boolean;
  onMake: ((key: string, title: string) => void) | undefined;
}) {
  const frame = `min-w-0 border-l border-hair-soft ${dim ? "bg-sunk" : ""}`;
  if (cell.list === null) {
    return (
      <div role="cell" className={`${frame} flex items-center px-3.5 text-[13px] text-ink-3`}>
        {onMake === undefined || cell.key === "" ? (
          <span className="sr-only">{t("board.none")}</span>
        ) : (
          <MissingList cell={cell} at={at} onMake={onMake} label={label} />
        )}
      </div>
    );
  }
  return (
    <div role="cell" className={frame}>
      <Link
        to={`/lists/${cell.list}`}
        data-cell={at}
        data-list={cell.list}
        data-first={isFirst ? "" : undefined}
        className="block h-full px-3.5 py-2 hover:bg-petrol-soft focus-visible:bg-petrol-soft focus-visible:-outline-offset-2"
      >
        <span className="mb-1.5 flex items-baseline gap-2">
          <b className="min-w-6 text-[16px] font-[650]">
            <span className="sr-only">{label}: </span>
            {cell.count}
            <span className="sr-only">
              {" "}
              {cell.count === 1 ? t("board.member") : t("board.members")}{" "}
            </span>
          </b>
          <span className="mono min-w-0 flex-1 truncate text-ink-2" title={cell.name}>
            {cell.name}
          </span>
          <span className="flex gap-1 text-[13px]">
            {cell.unreachable > 0 && (
              <span
                title={t("board.studentsWithoutAGuardianWho", { unreachable: cell.unreachable })}
              >
                <Warn>{cell.unreachable}</Warn>
              </span>
            )}
            <Plus count={cell.joins} />
            <Minus count={cell.leaves} />
          </span>
        </span>
        <span className="sr-only">
          {cell.joins > 0 && t("board.toJoin", { joins: cell.joins })}
          {cell.leaves > 0 && t("board.toLeave", { leaves: cell.leaves })}
          {cell.unreachable > 0 && t("board.notReached", { unreachable: cell.unreachable })}
        </span>
        <div aria-hidden="true">
          <StepBar count={cell.count} joins={cell.joins} leaves={cell.leaves} />
        </div>
      </Link>
    </div>
  );
}

function MissingList({
  cell,
  at,
  onMake,
  label,
}: {
  cell: BoardCell;
  at: string;
  onMake: (key: string, title: string) => void;
  label: string;
}) {
  return (
    <>
      {t("board.closed", { closed: String(cell.closed) })}
      <button
        type="button"
        data-cell={at}
        onClick={() =>
          onMake(
            cell.key,
            cell.closed
              ? t("board.openTheListAgain3", { label })
              : t("board.makeTheList3", { label }),
          )
        }
        className="text-petrol underline underline-offset-2"
      >
        <Rich
          id="board.openItAgain"
          closed={String(cell.closed)}
          label={<span className="sr-only"> {label}</span>}
        />
      </button>
    </>
  );
}
