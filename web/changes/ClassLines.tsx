import { memo, useEffect, useState, type ReactNode } from "react";
import { ChevronRight } from "lucide-react";
import type { OutlineClass, RoundOutline } from "@amigo/contract/causes";
import type { CausesOfRound } from "../data/rounds";
import { Warn } from "../ui/Signs";
import { t } from "../texts/changes";
import { Causes, type CauseLines } from "./Causes";
import { Decision, Sums, type Decide } from "./Decision";
import { kindTitle } from "./kindTitle";
import { causesIn, classKey } from "./useRoundView";

/** How many lines are made at once: more would keep the page from answering. */
const AT_ONCE = 20;

/** The classes of a section, each a line that opens to its causes. */
export function ClassLines({
  section,
  classes,
  all,
  opened,
  onToggle,
  ...lines
}: CauseLines & {
  section: RoundOutline["sections"][number];
  classes: readonly OutlineClass[];
  all: CausesOfRound;
  opened: ReadonlySet<string>;
  onToggle: (key: string) => void;
}) {
  const made = useGrowing(classes.length);
  return classes.slice(0, made).map((item) => {
    const key = classKey(section.key, item.name);
    return (
      <ClassLine
        key={key}
        section={section.key}
        item={item}
        all={all}
        decidable={lines.decidable}
        onToggle={onToggle}
        onDecide={lines.onDecide}
      >
        {opened.has(key) && (
          <Causes of={causesIn(all, section.key, item.name)} count={item.count} {...lines} />
        )}
      </ClassLine>
    );
  });
}

/** Returns how many lines to make now: a few at first, and more as soon as those are there. */
function useGrowing(total: number): number {
  const [made, setMade] = useState(AT_ONCE);
  useEffect(() => {
    if (made >= total) return undefined;
    const timer = setTimeout(() => setMade(made + AT_ONCE));
    return () => clearTimeout(timer);
  }, [made, total]);
  return made;
}

/** The line of a class, and below it its causes where it is open. */
const ClassLine = memo(function ClassLine({
  section,
  item,
  all,
  decidable,
  onToggle,
  onDecide,
  children,
}: {
  section: string;
  item: OutlineClass;
  all: CausesOfRound;
  decidable: boolean;
  onToggle: (key: string) => void;
  onDecide: Decide;
  children: ReactNode;
}) {
  return (
    <div>
      <div className="flex items-center gap-3 border-b border-hair-soft py-2 pr-3.5 pl-3.5 hover:bg-sunk [content-visibility:auto] [contain-intrinsic-size:auto_53px]">
        <Decision
          counts={item}
          label={t("changes.groupAndClass", {
            group: kindTitle(section),
            name: item.name || t("changes.noClass"),
          })}
          decidable={decidable}
          onDecide={(decision) => onDecide(causesIn(all, section, item.name), decision)}
        />
        <ClassHead
          isOpen={children !== false}
          onToggle={() => onToggle(classKey(section, item.name))}
          item={item}
        />
      </div>
      {children !== false && <div className="border-l-[14px] border-sunk">{children}</div>}
    </div>
  );
});

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
