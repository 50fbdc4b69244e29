import { Link } from "react-router";
import type { CauseLine, CausePage } from "@amigo/contract/rounds";
import { useMe } from "../app/me";
import { Button } from "../ui/Button";
import { FaultLine, Loading } from "../ui/Page";
import { moment } from "../ui/time";
import { useCauseQuery } from "./requests";

/** One cause: what happened, the rows of the sheet before and now, what it does to each list. */
export function CauseDetail({ round, version, cause, decidable, onDecide }: { round: number; version: number; cause: CauseLine; decidable: boolean; onDecide: (decision: "accepted" | "held") => void }) {
  const { data, error } = useCauseQuery({ round, position: cause.position, version });
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined || data.position !== cause.position) return <Loading what="the evidence" />;
  return (
    <article className="px-[18px] py-4" aria-label={data.sentence}>
      <h2 className="text-[18px]! font-[680]!">{data.sentence}</h2>
      <p className="mb-3.5 text-ink-2">{data.about}{data.history !== "" && <span className="block text-marigold-ink">{data.history}</span>}</p>
      <Evidence rows={data.evidence} />
      <h3 className="mt-4 mb-1 font-[620] text-ink-2">What it does</h3>
      {data.changes.length === 0 ? <p className="border-t border-hair-soft py-2 text-ink-2">Nothing changes on any list{cause.unreachable ? ": no address of theirs can be reached" : ""}.</p> : <Effects changes={data.changes} />}
      {decidable && (
        <div className="mt-4 flex items-center gap-2">
          <Button look={cause.decision === "held" ? "go" : "plain"} onClick={() => onDecide("accepted")}>{cause.decision === "accepted" ? "Accepted" : "Accept"} <kbd>A</kbd></Button>
          <Button onClick={() => onDecide("held")}>{cause.decision === "held" ? "Held" : "Hold"} <kbd>H</kbd></Button>
          <span className="text-ink-3">{cause.decision === "accepted" ? "It will be carried out." : "It waits, and comes back in the next round."}</span>
        </div>
      )}
    </article>
  );
}

function Evidence({ rows }: { rows: CausePage["evidence"] }) {
  const me = useMe();
  if (rows.length === 0) return <p className="text-ink-2">It follows from the house's own rules; no row of a sheet shows it.</p>;
  return (
    <div className="flex flex-col gap-2">
      {rows.map(({ source, readAt, row, when, cells }) => (
        <figure key={`${when} ${row}`} className="overflow-hidden rounded-md border border-hair">
          <figcaption className="flex justify-between border-b border-hair-soft bg-sunk px-2.5 py-1 text-[13px] text-ink-2"><span>{source}, {when === "before" ? "as read" : "read"} {moment(readAt, me.timeZone)}</span><span>row {row}</span></figcaption>
          <div className="flex flex-wrap">
            {cells.filter(({ text, mark }) => text !== "" || mark !== "").map(({ label, text, mark }) => (
              <div key={label} className={`min-w-0 border-r border-hair-soft px-2.5 py-1.5 ${mark === "gone" ? "bg-brick-soft" : mark === "new" ? "bg-leaf-soft" : ""}`}>
                <span className="block text-[11px] text-ink-3">{label}</span>
                <span className={`block wrap-anywhere ${/@/.test(text) ? "mono" : ""} ${mark === "gone" ? "line-through" : mark === "new" ? "font-[650]" : ""}`}>{mark === "gone" ? "− " : mark === "new" ? "+ " : ""}{text === "" ? "(empty)" : text}</span>
              </div>
            ))}
          </div>
        </figure>
      ))}
    </div>
  );
}

const SIGN = { joins: ["+", "text-leaf"], leaves: ["−", "text-brick"], replaced: ["~", "text-ink-2"] } as const;
const VERB = { joins: "joins", leaves: "leaves", replaced: "is replaced" } as const;

function Effects({ changes }: { changes: CausePage["changes"] }) {
  return (
    <table className="w-full table-fixed">
      <thead className="sr-only"><tr><th>Effect</th><th>List</th><th>Person and address</th></tr></thead>
      <tbody>
        {changes.map(({ list, listId, kind, address, instead, person }) => (
          <tr key={`${list} ${kind} ${address}`} className="border-t border-hair-soft align-baseline">
            <td className={`w-6 py-1.5 font-bold ${SIGN[kind][1]}`}><span aria-hidden="true">{SIGN[kind][0]}</span><span className="sr-only">{VERB[kind]}</span></td>
            <td className="w-[42%] truncate py-1.5 pr-3">{listId === null ? <span className="text-ink-2">{list}</span> : <Link className="mono hover:underline" to={`/lists/${listId}`}>{list}</Link>}</td>
            <td className="py-1.5 wrap-anywhere">{person} <span className="mono text-ink-2">{instead === null ? address : <><s className="text-brick">{instead}</s> → {address}</>}</span></td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
