import { useNavigate, useSearchParams } from "react-router";
import type { ListPage as List } from "@amigo/contract/lists";
import { useSetWatchMutation } from "../data/intakes";
import { t } from "../texts/list";
import { Button } from "../ui/Button";
import { PageHead } from "../ui/Page";
import { ListMenu } from "./ListMenu";

/** The head of a list's page: its title, how many it reaches, and what the reader may do with it. */
export function ListHead({
  list,
  onAdd,
  onEdit,
  onState,
}: {
  list: List;
  onAdd: () => void;
  onEdit: () => void;
  /** Closes the list, or opens it again. */
  onState: () => void;
}) {
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const [setWatch] = useSetWatchMutation();
  const isOpen = list.state === "open";
  const { may } = list;
  return (
    <PageHead title={list.title} line={lineOf(list)}>
      {may.add && <Button onClick={onAdd}>{t("list.addMembers")}</Button>}
      {may.see && (
        <ListMenu
          list={list}
          q={search.get("q") ?? ""}
          onEdit={may.change ? onEdit : undefined}
          onState={may.change ? onState : undefined}
        />
      )}
      {isOpen && may.see && (
        <Button
          aria-pressed={list.watching}
          title={t("list.aMailWhenSomebodyWas")}
          onClick={() => void setWatch({ what: "list", id: list.id, watching: !list.watching })}
        >
          {list.watching ? t("list.stopWatching") : t("list.watch")}
        </Button>
      )}
      {isOpen && (
        <Button
          look="go"
          onClick={() => void navigate(`/mail/write?to=${list.id}`)}
          disabled={list.members === 0}
        >
          {t("list.writeToAddresses", { members: list.members })}
        </Button>
      )}
    </PageHead>
  );
}

function lineOf(list: List): string {
  const people =
    list.kind === "staff"
      ? [t("list.people", { people: list.people })]
      : list.families === 0
        ? []
        : [t("list.families", { families: list.families })];
  return [
    t("list.addresses4", { members: list.members }),
    ...people,
    list.preset.name.toLowerCase(),
  ].join(", ");
}
