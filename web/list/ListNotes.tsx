import type { ListPage as List } from "@amigo/contract/lists";
import { useMe } from "../data/me";
import { t } from "../texts/list";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { RequestNote } from "./RequestNote";
import { Waiting } from "./Waiting";

/** What a list needs somebody to look at: rules of the school that it breaks, requests, addresses that wait, a name against the convention. */
export function ListNotes({
  list,
  onRename,
}: {
  list: List;
  /** Gives the list the name that the convention proposes. */
  onRename: (name: string) => void;
}) {
  const me = useMe();
  const { breach } = list;
  return (
    <>
      {list.state === "open" && list.broken.length > 0 && (
        <Panel className="px-[18px] py-3">
          {list.broken.map((sentence) => (
            <p key={sentence}>
              <Warn>{sentence}</Warn>
            </p>
          ))}
        </Panel>
      )}
      {list.requests.map(({ id: request, sentence, by, at }) => (
        <Panel key={request} className="px-[18px] py-3 text-[13px]">
          <RequestNote by={by} sentence={sentence} at={at} me={me} />
        </Panel>
      ))}
      <Waiting list={list} />
      {breach !== null && (
        <Panel className="px-[18px] py-3">
          <p>
            <Warn>{breach.sentence}</Warn>
          </p>
          {list.may.change && (
            <Button className="mt-2" onClick={() => onRename(breach.proposal)}>
              {t("list.callIt", { proposal: breach.proposal })}
            </Button>
          )}
        </Panel>
      )}
    </>
  );
}
