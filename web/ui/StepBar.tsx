import { t } from "../texts/ui";
/**
 * Amigo's own mark: a list as one short bar. The members that agree are its solid middle, those to
 * join hatched on the right, those to leave hatched on the left. In step it is one quiet bar.
 */
export function StepBar({
  count,
  joins,
  leaves,
}: {
  count: number;
  joins: number;
  leaves: number;
}) {
  if (joins + leaves === 0)
    return (
      <div
        className="flex h-2 items-center forced-color-adjust-none"
        role="img"
        aria-label={t("ui.inStep", { count })}
      >
        <div
          className="h-1 w-full rounded-sm"
          style={{ background: count === 0 ? "var(--hair-soft)" : "var(--step-quiet)" }}
        />
      </div>
    );
  const whole = Math.max(count + joins, 1);
  const share = (part: number): string =>
    `${part === 0 ? 0 : Math.max((part / whole) * 100, 3.5)}%`;
  return (
    <div
      className="flex h-2 w-full items-center forced-color-adjust-none"
      role="img"
      aria-label={t("ui.membersToJoinToLeave", { count, joins, leaves })}
    >
      {leaves > 0 && (
        <div className="step-out h-2 shrink-0 rounded-l-[3px]" style={{ width: share(leaves) }} />
      )}
      {count - leaves > 0 && (
        <div className="h-2 min-w-0 flex-1" style={{ background: "var(--step)" }} />
      )}
      {joins > 0 && (
        <div
          className="step-in h-2 shrink-0 rounded-r-[3px]"
          style={{ width: count - leaves > 0 ? share(joins) : "100%" }}
        />
      )}
    </div>
  );
}
