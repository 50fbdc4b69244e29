import { Link } from "react-router";
import type { Me } from "@amigo/contract/accounts";
import { Rich } from "../texts/list";
import { moment } from "../ui/time";

export function RequestNote({
  by,
  sentence,
  at,
  me,
}: {
  by: string;
  sentence: string;
  at: string;
  me: Me;
}) {
  return (
    <p>
      <Rich
        id="list.hasAskedForSeeThe"
        b={<b className="text-marigold-ink">! </b>}
        by={by}
        sentence={sentence}
        when={moment(at, me.timeZone)}
        link={(chunks) => (
          <Link to="/requests" className="text-petrol underline underline-offset-2">
            {chunks}
          </Link>
        )}
      />
    </p>
  );
}
