import { ChevronLeft, ChevronRight } from "lucide-react";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";

/** What a calendar shows, with the ways to what is before and after it, and back to today. */
export function SpanHead({
  title,
  back,
  on,
  today,
  onMove,
}: {
  title: string;
  back: { name: string; day: string };
  on: { name: string; day: string };
  today: string;
  onMove: (day: string) => void;
}) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      <Button aria-label={back.name} title={back.name} onClick={() => onMove(back.day)}>
        <ChevronLeft size={16} aria-hidden="true" />
      </Button>
      <Button aria-label={on.name} title={on.name} onClick={() => onMove(on.day)}>
        <ChevronRight size={16} aria-hidden="true" />
      </Button>
      <Button onClick={() => onMove(today)}>{t("dates.today")}</Button>
      <h2 className="ml-1">{title}</h2>
    </div>
  );
}
