import type { DraftReckoning } from "@amigo/contract/drafts";
import { Warn } from "../ui/Signs";
import { t } from "../texts/mail";

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
          t("mail.counting")
        )
      ) : (
        <>
          <b className="font-[620] text-ink">
            {t("mail.addressesInFamilies", {
              addresses: counts.addresses,
              families: counts.families,
            })}
          </b>
          {counts.unreachable > 0 && (
            <>
              ;{" "}
              <Warn>{t("mail.familiesCannotBeReached", { unreachable: counts.unreachable })}</Warn>
            </>
          )}
          {counts.twice > 0 && t("mail.onTwoOfTheseLists", { twice: counts.twice })}
          {counts.digests > 0 && t("mail.itInADigest", { digests: counts.digests })}
          {counts.resting > 0 && t("mail.noMailJustNow", { resting: counts.resting })}
          {counts.stopped > 0 && (
            <>
              ; <Warn>{t("mail.mailToOfThemComes", { stopped: counts.stopped })}</Warn>
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
