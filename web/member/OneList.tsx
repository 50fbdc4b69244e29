import { useState } from "react";
import { Link } from "react-router";
import { type MemberLists, HOW_OFTEN } from "@amigo/contract/member";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useHowOftenMutation, useMemberLeaveMutation } from "../data/member";
import { Rich, t } from "../texts/member";
import { Button } from "../ui/Button";
import { Select } from "./Select";
import { Panel, FaultLine } from "../ui/Page";

export function OneList({ list }: { list: MemberLists["lists"][number] }) {
  const [howOften, setting] = useHowOftenMutation();
  const [leave, leaving] = useMemberLeaveMutation();
  const [asking, setAsking] = useState(false);
  return (
    <Panel className="px-4 py-3">
      <h3 className="font-[640]">{list.title}</h3>
      {list.description !== "" && <p>{list.description}</p>}
      <p className="text-[13px] text-ink-2">{t("member.reason", { because: list.because })}</p>
      <p className="my-2">
        <Rich
          id="member.iGet"
          choice={
            <Select
              label={t("member.howOften", { title: list.title })}
              value={list.howOften}
              onChange={(value) => void howOften({ id: list.id, howOften: value })}
              options={HOW_OFTEN.map((value) => ({ value, name: say(wordsOf("howOften", value)) }))}
            />
          }
        />
      </p>
      <FaultLine error={setting.error ?? leaving.error} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {(list.readsArchive || list.members !== null) && (
          <Link
            to={`/member/lists/${list.id}`}
            className="text-petrol underline underline-offset-2"
          >
            <Rich
              id="member.whatWasWritten"
              readsArchive={String(list.readsArchive)}
              readsArchive2={
                <span className="sr-only">
                  {" "}
                  {t("member.to", { readsArchive: String(list.readsArchive), title: list.title })}
                </span>
              }
            />
          </Link>
        )}
        {!list.mayLeave ? (
          <span className="text-[13px] text-ink-2">
            <Rich
              id="member.toLeaveThisListWrite"
              leads={say(each(list.leads))}
              address={
                <a
                  className="text-petrol underline underline-offset-2 wrap-anywhere"
                  href={`mailto:${list.leadsAddress}`}
                >
                  {list.leadsAddress}
                </a>
              }
            />
          </span>
        ) : asking ? (
          <span className="flex flex-wrap items-center gap-2">
            {t("member.leaveThisListYouWont")}{" "}
            <Button look="go" disabled={leaving.isLoading} onClick={() => void leave(list.id)}>
              {t("member.leave", { title: list.title })}
            </Button>
            <Button onClick={() => setAsking(false)}>{t("member.stay")}</Button>
          </span>
        ) : (
          <Button onClick={() => setAsking(true)}>
            <Rich id="member.leave2" title={<span className="sr-only"> {list.title}</span>} />
          </Button>
        )}
      </div>
    </Panel>
  );
}
