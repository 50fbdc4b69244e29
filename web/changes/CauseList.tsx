import { Check, ChevronRight, Pause } from "lucide-react";
import type { CauseLine, RoundPage } from "@amigo/contract/rounds";
import { Panel } from "../ui/Page";
import { Minus, Plus, Tilde, Warn } from "../ui/Signs";
import type { CauseGroup } from "./groupCauses";
import { t } from "../texts/changes";

interface CauseListProps {
  groups: readonly CauseGroup[];
  /** What each class gets where many join. */
  joining: RoundPage["classes"];
  opened: ReadonlySet<string>;
  onOpen: (opened: ReadonlySet<string>) => void;
  chosen: number | undefined;
  decidable: boolean;
  onChoose: (cause: CauseLine) => void;
  onDecide: (causes: readonly CauseLine[], decision: "accepted" | "held") => void;
}

/** The causes of a round by kind. Many of a kind are one line a class that opens. */
export function CauseList({
  groups,
  joining,
  opened,
  onOpen,
  chosen,
  decidable,
  onChoose,
  onDecide,
}: CauseListProps) {
  const toggle = (key: string): void => {
    const next = new Set(opened);
    if (!next.delete(key)) next.add(key);
    onOpen(next);
  };
  const line = (cause: CauseLine) => (
    <CauseRow
      key={cause.position}
      cause={cause}
      chosen={cause.position === chosen}
      decidable={decidable}
      onChoose={onChoose}
      onDecide={onDecide}
    />
  );
  return (
    <Panel scrolls={t("changes.changes2")}>
      {groups.map((group) => (
        <section key={group.key} aria-label={group.title}>
          <h2 className="sticky top-0 z-10 flex justify-between border-b border-hair bg-sunk px-3.5 py-1.5 text-[14px]! font-normal! text-ink-2">
            <span>{group.title}</span>
            <span>{t("changes.changes", { causes: group.causes.length })}</span>
          </h2>
          {group.classes === undefined
            ? group.causes.map(line)
            : group.classes.map(({ name, causes }) => {
                const key = `${group.key} ${name}`;
                const isOpen = opened.has(key);
                const lost = causes.filter(({ unreachable }) => unreachable).length;
                return (
                  <div key={key}>
                    <div className="flex items-center gap-3 border-b border-hair-soft py-2 pr-3.5 pl-3.5 hover:bg-sunk">
                      <Decision
                        causes={causes}
                        label={t("changes.groupAndClass", {
                          group: group.title,
                          name: name || t("changes.noClass"),
                        })}
                        decidable={decidable}
                        onDecide={onDecide}
                      />
                      <ClassHead
                        isOpen={isOpen}
                        onToggle={() => toggle(key)}
                        name={name}
                        causes={causes}
                        joining={joining}
                        lost={lost}
                      />
                    </div>
                    {isOpen && (
                      <div className="border-l-[14px] border-sunk">{causes.map(line)}</div>
                    )}
                  </div>
                );
              })}
        </section>
      ))}
    </Panel>
  );
}

/** What a folded class gets: "32 students, 51 parents, 3 new lists". */
function classWords(
  causes: readonly CauseLine[],
  joining: RoundPage["classes"][number] | undefined,
): string {
  // One change says that one student joined; of other kinds a student can have several, and so can a guardian.
  const students = causes.filter(({ kind }) => kind === "joined").length;
  const others = causes.filter(({ kind }) => kind !== "joined" && kind !== "cohort").length;
  const parts = [
    students > 0 ? t("changes.students", { students }) : "",
    others > 0 ? t("changes.changes3", { count: others }) : "",
    joining !== undefined && joining.guardians > 0
      ? t("changes.parents", { guardians: joining.guardians })
      : "",
    joining !== undefined && joining.newLists > 0
      ? t("changes.newLists", { newLists: joining.newLists })
      : "",
  ].filter((part) => part !== "");
  return parts.length === 0 ? t("changes.newClass") : parts.join(", ");
}

function CauseRow({
  cause,
  chosen,
  decidable,
  onChoose,
  onDecide,
}: { cause: CauseLine; chosen: boolean } & Pick<
  CauseListProps,
  "decidable" | "onChoose" | "onDecide"
>) {
  return (
    <div
      id={`cause-${cause.position}`}
      className={`flex items-start gap-3 border-b border-hair-soft py-2 pr-3.5 ${chosen ? "border-l-[3px] border-l-petrol bg-petrol-soft pl-[11px]" : "pl-3.5 hover:bg-sunk"}`}
    >
      <Decision
        causes={[cause]}
        label={`${cause.title}: ${cause.detail}`}
        decidable={decidable}
        onDecide={onDecide}
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
          {cause.unreachable ? <Warn>{t("changes.unreachable")}</Warn> : <Sums causes={[cause]} />}
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

function Sums({ causes }: { causes: readonly CauseLine[] }) {
  const sum = (pick: (cause: CauseLine) => number): number =>
    causes.reduce((total, cause) => total + pick(cause), 0);
  return (
    <span className="flex justify-end gap-1.5">
      <Plus count={sum(({ joins }) => joins)} />
      <Minus count={sum(({ leaves }) => leaves)} />
      <Tilde count={sum(({ replaced }) => replaced)} />
    </span>
  );
}

function Decision({
  causes,
  label,
  decidable,
  onDecide,
}: { causes: readonly CauseLine[]; label: string } & Pick<
  CauseListProps,
  "decidable" | "onDecide"
>) {
  const accepted = causes.filter(({ decision }) => decision === "accepted").length;
  const state = accepted === causes.length ? "accepted" : accepted === 0 ? "held" : "some";
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
      onClick={() => onDecide(causes, state === "accepted" ? "held" : "accepted")}
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
  name,
  causes,
  joining,
  lost,
}: {
  isOpen: boolean;
  onToggle: () => void;
  name: string;
  causes: CauseLine[];
  joining: { name: string; students: number; guardians: number; newLists: number }[];
  lost: number;
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
          {name || t("changes.noClass")}
          <span className="sr-only">: </span>
        </b>
        <span className="block text-[13px] text-ink-2">
          {classWords(
            causes,
            joining.find((candidate) => candidate.name === name),
          )}
          {lost > 0 && (
            <>
              {" · "}
              <Warn>{t("changes.cannotBeReached", { lost })}</Warn>
            </>
          )}
        </span>
      </span>
      <Sums causes={causes} />
      <ChevronRight
        size={16}
        aria-hidden="true"
        className={`shrink-0 text-ink-3 transition-transform ${isOpen ? "rotate-90" : ""}`}
      />
    </button>
  );
}
