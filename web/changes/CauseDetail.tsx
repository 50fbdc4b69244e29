import { Link } from "react-router";
import type { CausePage } from "@amigo/contract/causes";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { FaultLine, Loading } from "../ui/Page";
import { moment } from "../ui/time";
import { useCauseQuery } from "../data/rounds";
import { t } from "../texts/changes";

/** One cause: what happened, the rows of the sheet before and now, what it does to each list. */
export function CauseDetail({
  round,
  version,
  position,
  decidable,
  onDecide,
  onCorrect,
}: {
  round: number;
  version: number;
  position: number;
  decidable: boolean;
  onDecide: (decision: "accepted" | "held") => void;
  onCorrect: () => void;
}) {
  const { data, error } = useCauseQuery({ round, position, version });
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined || data.position !== position)
    return <Loading what={t("changes.theEvidence")} />;
  return (
    <article className="px-3 py-3 md:px-[18px] md:py-4" aria-label={data.sentence}>
      <h2 className="text-[18px]! font-[680]!">{data.sentence}</h2>
      <p className="mb-3.5 text-ink-2">
        {data.about}
        {data.history !== "" && <span className="block text-marigold-ink">{data.history}</span>}
      </p>
      <Evidence rows={data.evidence} />
      <h3 className="mt-4 mb-1 font-[620] text-ink-2">{t("changes.effects")}</h3>
      {data.changes.length === 0 ? (
        <p className="border-t border-hair-soft py-2 text-ink-2">
          {data.kind === "cohort"
            ? t("changes.theRecipesCreateItsLists")
            : data.unreachable
              ? t("changes.noListChangesBecauseNone")
              : t("changes.noListChanges")}
        </p>
      ) : (
        <Effects changes={data.changes} />
      )}
      {decidable && (
        <div className="mt-4 flex flex-wrap items-center gap-2 max-md:[&>button]:min-h-[44px] max-md:[&>button]:flex-1">
          <Button
            look={data.decision === "held" ? "go" : "plain"}
            onClick={() => onDecide("accepted")}
          >
            {data.decision === "accepted" ? t("changes.accepted") : t("changes.accept")}{" "}
            <kbd>A</kbd>
          </Button>
          <Button onClick={() => onDecide("held")}>
            {data.decision === "held" ? t("changes.held") : t("changes.hold")} <kbd>H</kbd>
          </Button>
          {data.evidence.some(({ when }) => when === "now") && (
            <Button onClick={onCorrect}>
              {t("changes.theSheetIsWrong")} <kbd>C</kbd>
            </Button>
          )}
          <span className="text-ink-3">
            {data.decision === "accepted"
              ? t("changes.itWillBeCarriedOut")
              : t("changes.onHoldItComesBack")}
          </span>
        </div>
      )}
    </article>
  );
}

/** The rows of the sheets, before and now: of one sheet one below the other in the same columns, of two each with its own. */
function Evidence({ rows }: { rows: CausePage["evidence"] }) {
  if (rows.length === 0) return <p className="text-ink-2">{t("changes.thisComesFromAManual")}</p>;
  const isOneSource = new Set(rows.map(({ source }) => source)).size === 1;
  return (
    <div className="flex flex-col gap-2">
      {(isOneSource ? [rows] : rows.map((row) => [row])).map((item) => (
        <Rows key={`${item[0]?.when ?? ""} ${item[0]?.source ?? ""}`} rows={item} />
      ))}
    </div>
  );
}

/** What differs comes right after the name. */
function Rows({ rows }: { rows: CausePage["evidence"] }) {
  const me = useMe();
  const labels = (rows[0]?.cells ?? []).map(({ label }) => label);
  const marked = new Set(
    rows.flatMap(({ cells }) => cells.flatMap(({ label, mark }) => (mark === "" ? [] : [label]))),
  );
  const names = labels.slice(0, 3);
  const order = [
    ...names,
    ...labels.filter((label) => marked.has(label) && !names.includes(label)),
    ...labels.filter((label) => !marked.has(label) && !names.includes(label)),
  ].filter((label) =>
    rows.some(({ cells }) => cells.some((cell) => cell.label === label && cell.text !== "")),
  );
  return (
    <div
      className="overflow-x-auto rounded-md border border-hair"
      tabIndex={0}
      role="region"
      aria-label={t("changes.rowsOf", { source: rows[0]?.source ?? t("changes.theSheet") })}
    >
      <table className="min-w-full border-collapse text-[13px]">
        <thead>
          <tr className="bg-sunk text-left text-[11px] text-ink-3">
            <th className="px-2.5 py-1 font-normal whitespace-nowrap">
              {rows[0]?.source ?? t("changes.read")}
            </th>
            <th className="px-2 py-1 text-right font-normal">{t("changes.row")}</th>
            {order.map((label) => (
              <th
                key={label}
                className="border-l border-hair-soft px-2.5 py-1 font-normal whitespace-nowrap"
              >
                {label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ readAt, row, when, cells }) => (
            <tr key={`${when} ${row}`} className="border-t border-hair-soft">
              <td className="px-2.5 py-1.5 whitespace-nowrap text-ink-2">
                {when === "before" ? t("changes.before") : t("changes.now")}
                <span className="block text-[11px] text-ink-3">{moment(readAt, me.timeZone)}</span>
              </td>
              <td className="px-2 py-1.5 text-right text-ink-3">{row}</td>
              {order.map((label) => {
                const { text = "", mark = "" } = cells.find((cell) => cell.label === label) ?? {};
                return (
                  <td
                    key={label}
                    className={`border-l border-hair-soft px-2.5 py-1.5 whitespace-nowrap ${text.includes("@") ? "mono" : ""} ${mark === "gone" ? "bg-brick-soft" : mark === "new" ? "bg-leaf-soft font-[650]" : ""}`}
                  >
                    {mark === "gone" ? (
                      <>
                        <span className="text-brick">− </span>
                        <s>{text === "" ? t("changes.empty") : text}</s>
                      </>
                    ) : mark === "new" ? (
                      <>
                        <span className="text-leaf-ink">+ </span>
                        {text === "" ? t("changes.empty") : text}
                      </>
                    ) : (
                      text
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const SIGN = {
  joins: ["+", "text-leaf-ink"],
  leaves: ["−", "text-brick"],
  replaced: ["~", "text-ink-2"],
} as const;
const VERB = { joins: "joins", leaves: "leaves", replaced: t("changes.isReplaced") } as const;

function Effects({ changes }: { changes: CausePage["changes"] }) {
  return (
    <table
      aria-label={t("changes.effectsOnLists")}
      className="w-full table-fixed max-md:block [&>tbody]:max-md:block"
    >
      <colgroup>
        <col className="w-6" />
        <col className="w-[44%]" />
        <col />
      </colgroup>
      <thead className="sr-only">
        <tr>
          <th>{t("changes.effect")}</th>
          <th>{t("changes.list")}</th>
          <th>{t("changes.personAndAddress")}</th>
        </tr>
      </thead>
      <tbody>
        {changes.map(({ list, listId, kind, address, instead, person }) => (
          <tr
            key={`${list} ${kind} ${address}`}
            className="border-t border-hair-soft align-baseline max-md:grid max-md:grid-cols-[24px_minmax(0,1fr)]"
          >
            <td className={`py-1.5 font-bold ${SIGN[kind][1]}`}>
              <span aria-hidden="true">{SIGN[kind][0]}</span>
              <span className="sr-only">{VERB[kind]}</span>
            </td>
            <td className="truncate py-1.5 pr-3">
              {listId === null ? (
                <span className="mono text-ink-2">{list}</span>
              ) : (
                <Link className="mono hover:underline" to={`/lists/${listId}`}>
                  {list}
                </Link>
              )}
            </td>
            <td className="py-1.5 max-md:col-start-2 max-md:pt-0">
              <span className="block">{person}</span>
              <span className="block text-ink-2">
                {instead === null ? (
                  <Address>{address}</Address>
                ) : (
                  <>
                    <s className="text-brick">
                      <Address>{instead}</Address>
                    </s>{" "}
                    → <Address>{address}</Address>
                  </>
                )}
              </span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
