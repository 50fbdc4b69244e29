import { t } from "../texts/ui";
import { Address } from "./Address";
import { Button } from "./Button";
import { Copy } from "./Copy";

/** The secret address of a calendar: to copy, to open in a calendar program, to replace and to end. */
export function FeedAddress({
  url,
  isBusy,
  onMake,
  onEnd,
}: {
  url: string;
  isBusy: boolean;
  onMake: () => void;
  onEnd: () => void;
}) {
  if (url === "")
    return (
      <Button look="go" disabled={isBusy} onClick={onMake}>
        {t("ui.makeCalendarAddress")}
      </Button>
    );
  return (
    <div className="flex flex-col gap-2">
      <p className="flex flex-wrap items-center gap-2">
        <Address className="text-[13px]">{url}</Address>
        <Copy text={url} />
      </p>
      <p className="flex flex-wrap gap-2">
        <a
          href={url.replace(/^https?:/, "webcal:")}
          className="inline-flex min-h-[30px] items-center rounded-md border border-petrol bg-petrol px-3 font-[560] text-on-petrol hover:bg-petrol-deep"
        >
          {t("ui.openInYourCalendar")}
        </a>
        <Button disabled={isBusy} onClick={onMake}>
          {t("ui.replaceCalendarAddress")}
        </Button>
        <Button disabled={isBusy} onClick={onEnd}>
          {t("ui.endCalendarAddress")}
        </Button>
      </p>
      <p className="text-[13px] text-ink-2">{t("ui.whoeverKnowsTheAddress")}</p>
    </div>
  );
}
