import { Check, ChevronRight, Pause } from "lucide-react";
import type { CauseLine, OutlineClass } from "@amigo/contract/causes";
import { useCausesInfiniteQuery, type CausesOfRound } from "../data/rounds";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Minus, Plus, Tilde, Warn } from "../ui/Signs";
import { kindTitle } from "./kindTitle";
import { causesIn, classKey, type RoundView } from "./useRoundView";
import { t } from "../texts/changes";

interface CauseListProps {
  view: RoundView;
  decidable: boolean;
  onDecide: Decide;
}

/** Accepts or holds one cause, or all of a section or class. */
export type Decide = (causes: { key: string } | CausesOfRound, decision: Verdict) => void;
type Verdict = "accepted" | "held";

/** The causes of a round by kind. Many of a kind are one line a class that opens. */
export function CauseList({ view, decidable, onDecide }: CauseListProps) {
  const { outline, all, opened, setOpened } = view;
  if (outline === undefined)
    return (
      <Panel scrolls={t("changes.changes2")}>
        {view.error === undefined ? (
          <Loading what={t("changes.changes2")} />
        ) : (
          <FaultLine error={view.error} />
        )}
      </Panel>
    );
  const toggle = (key: string): void => {
    const next = new Set(opened);
    if (!next.delete(key)) next.add(key);
    setOpened(next);
  };
  return (
    <Panel scrolls={t("changes.changes2")}>
      {outline.sections.map((section) => {
        const title = kindTitle(section.key);
        return (
          <section key={section.key} aria-label={title}>
            <h2 className="sticky top-0 z-10 flex justify-between border-b border-hair bg-sunk px-3.5 py-1.5 text-[14px]! font-normal! text-ink-2">
              <span>{title}</span>
              <span>{t("changes.changes", { causes: section.count })}</span>
            </h2>
            {section.classes === null ? (
              <Causes
                of={causesIn(all, section, undefined)}
                count={section.count}
                view={view}
                decidable={decidable}
                onDecide={onDecide}
              />
            ) : (
              section.classes.map((item) => {
                const key = classKey(section.key, item.name);
                const of = causesIn(all, section, item.name);
                const isOpen = opened.has(key);
                return (
                  <div key={key}>
                    <div className="flex items-center gap-3 border-b border-hair-soft py-2 pr-3.5 pl-3.5 hover:bg-sunk">
                      <Decision
                        counts={item}
                        label={t("changes.groupAndClass", {
                          group: title,
                          name: item.name || t("changes.noClass"),
                        })}
                        decidable={decidable}
                        onDecide={(decision) => onDecide(of, decision)}
                      />
                      <ClassHead isOpen={isOpen} onToggle={() => toggle(key)} item={item} />
                    </div>
                    {isOpen && (
                      <div className="border-l-[14px] border-sunk">
                        <Causes
                          of={of}
                          count={item.count}
                          view={view}
                          decidable={decidable}
                          onDecide={onDecide}
                        />
                      </div>
                    )}
                  </div>
                );
              })
            )}
          </section>
        );
      })}
    </Panel>
  );
}

/** The causes of a section or of one class of it, a page at a time. */
function Causes({
  of,
  count,
  view,
  decidable,
  onDecide,
}: CauseListProps & { of: CausesOfRound; count: number }) {
  const { data, error, fetchNextPage, hasNextPage, isFetchingNextPage } =
    useCausesInfiniteQuery(of);
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("changes.changes2")} />;
  const causes = data.pages.flatMap((page) => page.causes);
  return (
    <>
      {causes.map((cause) => (
        <CauseRow
          key={cause.position}
          cause={cause}
          chosen={cause.position === view.position}
          decidable={decidable}
          onChoose={view.choose}
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

/** What a folded class gets: "32 students, 51 parents, 3 new lists". */
function classWords({ students, others, guardians, newLists }: OutlineClass): string {
  // One change says that one student joined; of other kinds a student can have several, and so can a guardian.
  const parts = [
    students > 0 ? t("changes.students", { students }) : "",
    others > 0 ? t("changes.changes3", { count: others }) : "",
    guardians > 0 ? t("changes.parents", { guardians }) : "",
    newLists > 0 ? t("changes.newLists", { newLists }) : "",
  ].filter((part) => part !== "");
  return parts.length === 0 ? t("changes.newClass") : parts.join(", ");
}

function CauseRow({
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
}

function Sums({ of }: { of: { joins: number; leaves: number; replaced: number } }) {
  return (
    <span className="flex justify-end gap-1.5">
      <Plus count={of.joins} />
      <Minus count={of.leaves} />
      <Tilde count={of.replaced} />
    </span>
  );
}

function Decision({
  counts: { count, accepted },
  label,
  decidable,
  onDecide,
}: {
  counts: { count: number; accepted: number };
  label: string;
  decidable: boolean;
  onDecide: (decision: Verdict) => void;
}) {
  const state = accepted === count ? "accepted" : accepted === 0 ? "held" : "some";
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={state === "some" ? "mixed" : state === "accepted"}
      aria-label={t("changes.accept2", { label })}
      title={
        state === "accepted"
          ? t("changes.acceptedPressToHold")
          : state === "held"
            ? t("changes.onHoldPressToAccept")
            : t("changes.someAreOnHoldPress")
      }
      disabled={!decidable}
      onClick={() => onDecide(state === "accepted" ? "held" : "accepted")}
      className={`mt-0.5 flex size-[18px] shrink-0 items-center justify-center rounded border forced-color-adjust-none ${state === "accepted" ? "border-petrol bg-petrol text-on-petrol" : "border-marigold bg-marigold-soft text-marigold-ink"}`}
    >
      {state === "accepted" ? (
        <Check size={13} strokeWidth={3} aria-hidden="true" />
      ) : state === "held" ? (
        <Pause size={11} strokeWidth={3} aria-hidden="true" />
      ) : (
        <b aria-hidden="true">–</b>
      )}
    </button>
  );
}

function ClassHead({
  isOpen,
  onToggle,
  item,
}: {
  isOpen: boolean;
  onToggle: () => void;
  item: OutlineClass;
}) {
  return (
    <button
      type="button"
      aria-expanded={isOpen}
      onClick={onToggle}
      className="flex min-w-0 flex-1 items-center gap-1 text-left"
    >
      <span className="min-w-0 flex-1">
        <b className="block font-[620]">
          {item.name || t("changes.noClass")}
          <span className="sr-only">: </span>
        </b>
        <span className="block text-[13px] text-ink-2">
          {classWords(item)}
          {item.unreachable > 0 && (
            <>
              {" · "}
              <Warn>{t("changes.cannotBeReached", { lost: item.unreachable })}</Warn>
            </>
          )}
        </span>
      </span>
      <Sums of={item} />
      <ChevronRight
        size={16}
        aria-hidden="true"
        className={`shrink-0 text-ink-3 transition-transform ${isOpen ? "rotate-90" : ""}`}
      />
    </button>
  );
}
