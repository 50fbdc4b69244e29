import { useMemberShelfQuery } from "../data/shelf";
import { t } from "../texts/t";
import { fileSize } from "../ui/fileSize";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf } from "../ui/time";

/** What a member's lists share with them. Whether they have opened it, those see who look after the list. */
export function Shelf({ first = "" }: { first?: string }) {
  const { data: things, error } = useMemberShelfQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  if (things === undefined || (things.length === 0 && first === "")) return null;
  const chosen = things.filter(({ id }) => id === first);
  const others = things.filter(({ id }) => id !== first);
  return (
    <section aria-label={t("member.sharedWithYou")}>
      <h2 className="mb-2">{t("member.sharedWithYou")}</h2>
      {first !== "" && chosen.length === 0 && (
        <p role="status" className="mb-2">
          {t("member.notOpenToYou")}
        </p>
      )}
      <Panel>
        <ul>
          {[...chosen, ...others].map((thing) => (
            <li
              key={thing.id}
              className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1 border-t border-hair-soft px-3.5 py-2.5 first:border-t-0"
            >
              <span className="min-w-0 flex-1 basis-48">
                <b className="font-[620] wrap-anywhere">{thing.title}</b>
                <span className="block text-[13px] text-ink-2 wrap-anywhere">
                  {[
                    thing.list,
                    thing.folder,
                    thing.kind === "link"
                      ? t("member.linkElsewhere")
                      : `${thing.name}, ${fileSize(thing.size)}`,
                    thing.untilDay === "" ? "" : t("member.until", { day: dayOf(thing.untilDay) }),
                  ]
                    .filter((part) => part !== "")
                    .join(" · ")}
                </span>
              </span>
              <a
                href={`/api/member/shelf/${thing.id}/files/open`}
                target={thing.isShown ? "_blank" : undefined}
                rel="noreferrer"
                className="inline-flex min-h-[44px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
              >
                {thing.isShown ? t("member.open") : t("member.download")}
                <span className="sr-only"> {thing.title}</span>
              </a>
            </li>
          ))}
        </ul>
      </Panel>
      <p className="mt-1.5 text-[13px] text-ink-2">{t("member.leadsSeeWhatYouOpen")}</p>
    </section>
  );
}
