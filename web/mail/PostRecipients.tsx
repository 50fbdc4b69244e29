import type { PostPage as Post } from "@amigo/contract/posts";
import { useMe } from "../data/me";
import { useRetryMutation } from "../data/posts";
import { Rich, t } from "../texts/mail";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { WideTable } from "../ui/WideTable";
import { moment } from "../ui/time";

const STATES: Record<Post["recipients"][number]["state"], [string, string]> = {
  queued: [t("mail.onTheWay"), "text-ink-2"],
  sending: [t("mail.onTheWay"), "text-ink-2"],
  sent: [t("mail.delivered"), "text-leaf-ink"],
  deferred: [t("mail.retrying"), "text-marigold-ink"],
  bounced: [t("mail.refused"), "text-brick"],
  cancelled: [t("mail.cancelled"), "text-ink-2"],
};

export function PostRecipients({ post }: { post: Post }) {
  const me = useMe();
  const [retry, retrying] = useRetryMutation();
  const order = { bounced: 0, deferred: 1, queued: 2, sending: 2, cancelled: 3, sent: 4 };
  const rows = [...post.recipients].sort((a, b) => order[a.state] - order[b.state]);
  return (
    <WideTable label={t("mail.eachCopy")} className="w-full table-fixed text-[13px]">
      <caption className="sr-only">{t("mail.copies2", { rows: rows.length })}</caption>
      <thead>
        <tr className="sticky top-0 border-b border-hair bg-panel text-left text-[12px] text-ink-3">
          <th className="px-4 py-1.5 font-[500]">{t("mail.recipient")}</th>
          <th className="w-40 px-2 py-1.5 font-[500]">{t("mail.copy")}</th>
          <th className="px-4 py-1.5 font-[500]">{t("mail.mailServersAnswer")}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ address, people, state, attempts, reply, at, nextAt, retry: mayRetry }) => (
          <tr key={address} className="border-b border-hair-soft align-top">
            <td className="px-4 py-1.5">
              <b className="block truncate font-[620]">{people}</b>
              <Address className="text-ink-2">{address}</Address>
            </td>
            <td className={`px-2 py-1.5 ${STATES[state][1]}`}>
              {STATES[state][0]}
              <span className="block text-ink-3">
                {at !== null
                  ? moment(at, me.timeZone)
                  : nextAt !== null
                    ? t("mail.nextTry", { when: moment(nextAt, me.timeZone) })
                    : ""}
                {attempts > 1 ? t("mail.try", { attempts }) : ""}
              </span>
            </td>
            <td className="px-4 py-1.5 wrap-anywhere text-ink-2">
              {reply}
              {mayRetry && post.mayManage && (
                <Button
                  look="quiet"
                  className="-my-1 min-h-[26px]! px-2! text-[13px]"
                  disabled={retrying.isLoading}
                  onClick={() => void retry({ id: post.id, address })}
                >
                  <Rich id="mail.retry" address={<span className="sr-only">: {address}</span>} />
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </WideTable>
  );
}
