import type { DraftContent } from "@amigo/contract/drafts";
import { Rich, t } from "../texts/mail";
import { Choice } from "../ui/Choice";

export function SenderChoice({
  content,
  isEmpty,
  change,
}: {
  content: DraftContent;
  isEmpty: boolean;
  change: (part: Partial<DraftContent>) => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1.5 border-t border-hair-soft pt-2.5 text-[13px]">
      {[...content.to, ...content.cc, ...content.bcc].some(({ kind }) => kind === "list") ||
      isEmpty ? (
        <span className="flex items-center gap-2">
          <Rich
            id="mail.itComesFrom2"
            choice={
              <Choice
                small
                label={t("mail.itComesFrom")}
                value={content.as}
                onChange={(as) => change({ as })}
                options={[
                  { value: "oneself", name: t("mail.meByWayOfThe") },
                  { value: "list", name: t("mail.theListItself") },
                ]}
              />
            }
          />
        </span>
      ) : (
        <span>{t("mail.itComesFromYouTo")}</span>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"

          checked={content.copyToMe}
          onChange={(event) => change({ copyToMe: event.target.checked })}
        />
        {t("mail.aCopyToMe")}
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"

          checked={content.shown}
          onChange={(event) => change({ shown: event.target.checked })}
        />
        {t("mail.thoseInToAndCc")}
      </label>
    </div>
  );
}
