import { counted } from "@amigo/core/text/sentence";
import type { DraftReckoning } from "@amigo/contract/drafts";
import { Warn } from "../ui/Signs";

/** To whom a mail goes, always as it truly is: addresses, families, who is missed, who gets one copy for two. */
export function Reckoned({
  counts,
  isEmpty,
}: {
  counts: DraftReckoning | undefined;
  isEmpty: boolean;
}) {
  return (
    <p role="status" aria-live="polite" className="min-h-5 text-[13px] text-ink-2">
      {counts === undefined ? (
        isEmpty ? (
          ""
        ) : (
          "Counting …"
        )
      ) : (
        <>
          <b className="font-[620] text-ink">
            {counted(counts.addresses, "address", "addresses")} in{" "}
            {counted(counts.families, "family", "families")}
          </b>
          {counts.unreachable > 0 && (
            <>
              ; <Warn>{counted(counts.unreachable, "family", "families")} cannot be reached</Warn>
            </>
          )}
          {counts.twice > 0 &&
            `; ${counts.twice} ${counts.twice === 1 ? "is" : "are"} on two of these lists and ${counts.twice === 1 ? "gets" : "get"} one copy`}
          {counts.digests > 0 &&
            `; ${counts.digests} ${counts.digests === 1 ? "gets" : "get"} it in a digest`}
          {counts.resting > 0 &&
            `; ${counts.resting} ${counts.resting === 1 ? "wants" : "want"} no mail just now`}
          {counts.stopped > 0 && (
            <>
              ; <Warn>mail to {counts.stopped} of them comes back and is not sent</Warn>
            </>
          )}
          {counts.notes.map((note) => (
            <span key={note} className="block text-marigold-ink">
              ! {note}
            </span>
          ))}
          {counts.refused.map((reason) => (
            <span key={reason} className="block text-brick">
              − {reason}
            </span>
          ))}
        </>
      )}
    </p>
  );
}
