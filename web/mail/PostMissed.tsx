import type { PostPage as Post } from "@amigo/contract/posts";
import { useMe } from "../data/me";
import { t } from "../texts/mail";
import { Address } from "../ui/Address";
import { dayOf, moment } from "../ui/time";

type Missed = Post["missed"][number];

/** Whoever is on the post's lists and got no copy, each with the reason. */
export function PostMissed({ missed }: { missed: Post["missed"] }) {
  const me = useMe();
  if (missed.length === 0) return null;
  return (
    <details className="border-t border-hair" open={missed.length <= 12}>
      <summary className="cursor-pointer px-4 py-2 text-[13px] font-[620]">
        {t("mail.gotNoCopy", { count: missed.length })}
      </summary>
      <ul className="text-[13px]">
        {missed.map((one) => (
          <li key={one.address} className="border-t border-hair-soft px-4 py-1.5">
            <b className="font-[620]">{one.people}</b>{" "}
            <Address className="text-ink-2">{one.address}</Address>
            <span className="block">{reasonOf(one, me.timeZone)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function reasonOf({ why, at, words }: Missed, timeZone: string): string {
  const when = at === null ? "" : moment(at, timeZone);
  switch (why) {
    case "joined later":
      return t("mail.missedJoinedLater", { when });
    case "next digest":
      return t("mail.missedNextDigest");
    case "in a digest":
      return t("mail.missedInDigest", { when });
    case "by another list":
      return t("mail.missedByAnotherList");
    case "stopped":
      return t("mail.missedStopped", { when, words });
    case "paused":
      return t("mail.missedPaused", { day: at === null ? "" : dayOf(at) });
    case "wants none":
      return t("mail.missedWantsNone");
    case "left out":
      return t("mail.missedLeftOut");
  }
}
