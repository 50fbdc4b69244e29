import { Link } from "react-router";
import type { MemberLists } from "@amigo/contract/member";
import { useMemberJoinMutation } from "../data/member";
import { Rich, t } from "../texts/member";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";

export function OpenLists({ list }: { list: MemberLists["open"][number] }) {
  const [join, { isLoading, error }] = useMemberJoinMutation();
  return (
    <li className="flex flex-wrap items-center gap-3 border-b border-hair-soft px-4 py-2.5 last:border-b-0">
      <span className="min-w-40 flex-1">
        <b className="font-[620]">{list.title}</b>
        <span className="block text-[13px] text-ink-2">{list.description}</span>
      </span>
      {list.readsArchive && (
        <Link to={`/member/lists/${list.id}`} className="text-petrol underline underline-offset-2">
          <Rich
            id="member.whatWasWrittenTo"
            title={list.title}
            span={(chunks) => <span className="sr-only">{chunks}</span>}
          />
        </Link>
      )}
      {list.how === "no" ? null : list.asked ? (
        <span className="text-[13px] text-ink-2">{t("member.askedALeadDecides")}</span>
      ) : (
        <Button disabled={isLoading} onClick={() => void join(list.id)}>
          <Rich
            id="member.join"
            isHow={String(list.how === "join")}
            title={<span className="sr-only">: {list.title}</span>}
          />
        </Button>
      )}
      <FaultLine error={error} />
    </li>
  );
}
