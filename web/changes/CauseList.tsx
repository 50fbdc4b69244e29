import type { RoundOutline } from "@amigo/contract/causes";
import type { CausesOfRound } from "../data/rounds";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { t } from "../texts/changes";
import { Causes, type CauseLines } from "./Causes";
import { ClassLines } from "./ClassLines";
import { kindTitle } from "./kindTitle";
import { causesIn, type RoundView } from "./useRoundView";

/** The causes of a round by kind. Many of a kind are one line a class that opens. */
export function CauseList({
  view,
  ...decisions
}: { view: RoundView } & Pick<CauseLines, "decidable" | "onDecide">) {
  const { outline, error } = view;
  const lines = { ...decisions, chosen: view.position, onChoose: view.choose };
  return (
    <Panel scrolls={t("changes.changes2")}>
      {outline === undefined &&
        (error === undefined ? (
          <Loading what={t("changes.changes2")} />
        ) : (
          <FaultLine error={error} />
        ))}
      {outline?.sections.map((section) => (
        <Section key={section.key} section={section} view={view} all={view.all} lines={lines} />
      ))}
    </Panel>
  );
}

function Section({
  section,
  view,
  all,
  lines,
}: {
  section: RoundOutline["sections"][number];
  view: RoundView;
  all: CausesOfRound;
  lines: CauseLines;
}) {
  const title = kindTitle(section.key);
  return (
    <section aria-label={title}>
      <h2 className="sticky top-0 z-10 flex justify-between border-b border-hair bg-sunk px-3.5 py-1.5 text-[14px]! font-normal! text-ink-2">
        <span>{title}</span>
        <span>{t("changes.changes", { causes: section.count })}</span>
      </h2>
      {section.classes === null ? (
        <Causes of={causesIn(all, section.key, undefined)} count={section.count} {...lines} />
      ) : (
        <ClassLines
          section={section}
          classes={section.classes}
          all={all}
          opened={view.opened}
          onToggle={view.toggle}
          {...lines}
        />
      )}
    </section>
  );
}
