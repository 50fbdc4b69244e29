import { Link } from "react-router";
import { counted } from "@amigo/core/text/sentence";
import { useMe } from "../data/me";
import { Panel } from "../ui/Page";
import { Minus, Plus, Tilde } from "../ui/Signs";
import { moment } from "../ui/time";
import { useRoundsQuery } from "../data/rounds";

/** The rounds that were carried out, newest first. */
export function PastRounds() {
  const me = useMe();
  const { data = [] } = useRoundsQuery();
  if (data.length === 0) return null;
  return (
    <section aria-label="Past rounds" className="mt-4">
      <h2 className="mb-2">Past rounds</h2>
      <Panel className="overflow-hidden">
        {data.map(({ number, closedAt, closedBy, totals }) => (
          <Link key={number} to={`/changes/${number}`} className="flex items-baseline gap-4 border-b border-hair-soft px-3.5 py-2 last:border-b-0 hover:bg-petrol-soft">
            <b className="w-24 font-[620]">Round {number}</b><span className="w-60 text-ink-2">{closedAt === null ? "" : moment(closedAt, me.timeZone)}{closedBy === null ? "" : `, ${closedBy}`}</span>
            <span className="flex-1">{counted(totals.accepted, "cause")}, {counted(totals.lists, "list")}{totals.held > 0 && `, ${totals.held} held`}</span>
            <span className="flex gap-2"><Plus count={totals.joins} /><Minus count={totals.leaves} /><Tilde count={totals.replaced} /></span>
          </Link>
        ))}
      </Panel>
    </section>
  );
}
