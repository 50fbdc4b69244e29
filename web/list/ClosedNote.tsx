import { Link } from "react-router";
import type { ListPage as List } from "@amigo/contract/lists";
import { Rich, t } from "../texts/list";

export function ClosedNote({ list }: { list: List }) {
  return (
    <p
      role="note"
      className="mb-2.5 rounded-md border border-marigold-line bg-marigold-soft px-3 py-2"
    >
      <b>! </b>
      {list.state === "closed"
        ? t("list.thisListIsClosedIt")
        : t("list.theSeasonIsOverIts", { season: list.season })}
      {list.successor !== null && (
        <>
          {" "}
          <Rich
            id="list.theListNowIs"
            title={
              <Link
                className="text-petrol underline underline-offset-2"
                to={`/lists/${list.successor.id}`}
              >
                {list.successor.title}
              </Link>
            }
          />
        </>
      )}
    </p>
  );
}
