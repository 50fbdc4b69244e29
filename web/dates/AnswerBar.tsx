import type { DateCounts } from "@amigo/contract/dates";
import { t } from "../texts/dates";

/** The answers to a date as one bar: those who come solid, maybe hatched, those who can't in brick, and an empty rest who haven't said. */
export function AnswerBar({ counts }: { counts: DateCounts }) {
  const { yes, maybe, no, silent, waiting } = counts;
  const whole = Math.max(1, yes + maybe + no + silent + waiting);
  const share = (part: number): string =>
    `${part === 0 ? 0 : Math.max((part / whole) * 100, 3.5)}%`;
  return (
    <div
      role="img"
      aria-label={t("dates.answersInWords", { yes, maybe, no, silent, waiting })}
      className="flex h-2 w-full items-center overflow-hidden rounded-[3px] border border-hair forced-color-adjust-none"
    >
      <div className="h-2 shrink-0" style={{ width: share(yes), background: "var(--leaf)" }} />
      <div className="step-in h-2 shrink-0" style={{ width: share(maybe) }} />
      <div className="h-2 shrink-0" style={{ width: share(no), background: "var(--brick-pale)" }} />
    </div>
  );
}

/** The same in figures, with a sign for each. */
export function AnswerFigures({ counts }: { counts: DateCounts }) {
  return (
    <span
      aria-hidden="true"
      className="flex flex-wrap gap-x-2.5 text-[13px] tabular-nums text-ink-2"
    >
      <span className="text-leaf-ink">✓ {counts.yes}</span>
      <span>~ {counts.maybe}</span>
      <span className="text-brick">− {counts.no}</span>
      <span>… {counts.silent}</span>
    </span>
  );
}
