import { useState } from "react";
import type { z } from "zod";
import type { PastedLine } from "@amigo/contract/members";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { Rich, t } from "../texts/ui";
import { Address } from "../ui/Address";
import { Button } from "../ui/Button";
import { Warn } from "../ui/Signs";

type Line = z.output<typeof PastedLine>;

const SIGNS: Record<Line["outcome"], string> = {
  "to add": t("ui.toAdd"),
  repaired: t("ui.repaired"),
  "already there": t("ui.thereAlready"),
  twice: t("ui.twice"),
  outside: t("ui.outside"),
  waits: t("ui.waitsForALead"),
  unusable: t("ui.unusable"),
};
const LOOKS: Record<Line["outcome"], string> = {
  "to add": "text-leaf-ink",
  repaired: "text-leaf-ink",
  "already there": "text-ink-3",
  twice: "text-ink-3",
  outside: "text-brick",
  waits: "text-marigold-ink",
  unusable: "text-marigold-ink",
};
/** What needs somebody's eye comes first. */
const ORDER: readonly Line["outcome"][] = [
  "unusable",
  "outside",
  "repaired",
  "to add",
  "already there",
  "twice",
];

/** Each pasted address with what becomes of it, the count in and the count out, and what is no address at all. */
export function PastedLines({
  lines,
  leftOver,
  onFix,
}: {
  lines: readonly Line[];
  leftOver: readonly string[];
  onFix: (written: string, right: string) => void;
}) {
  const of = (...outcomes: Line["outcome"][]): number =>
    lines.filter(({ outcome }) => outcomes.includes(outcome)).length;
  const parts = [
    [of("to add", "repaired"), "ui.countToAdd"],
    [of("already there", "twice"), "ui.countThere"],
    [of("outside"), "ui.countOutside"],
    [of("unusable"), "ui.countUnusable"],
  ] as const;
  return (
    <section aria-label={t("ui.whatBecomesOfEachAddress")}>
      <p role="status" className="mb-1">
        <Rich
          id="ui.addressesIn"
          b={(chunks) => <b className="font-[640]">{chunks}</b>}
          lines={lines.length}
          counts={
            say(
              each(
                parts.flatMap(([count, what]) => (count > 0 ? [t(what, { count })] : [])),
                "comma",
              ),
            ) || t("ui.none")
          }
        />
        {leftOver.length > 0 && (
          <span className="block">
            <Warn>
              {t("ui.piecesThatNoAddress", {
                leftOver: leftOver.length,
                list: leftOver.slice(0, 6).join(" · "),
                isMore: String(leftOver.length > 6),
              })}
            </Warn>
          </span>
        )}
      </p>
      <ul className="max-h-64 overflow-auto rounded-md border border-hair">
        {[...lines]
          .map((line, index) => ({ line, index }))
          .sort(
            (a, b) =>
              ORDER.indexOf(a.line.outcome) - ORDER.indexOf(b.line.outcome) || a.index - b.index,
          )
          .map(({ line, index }) => (
            <li
              key={`${index} ${line.written}`}
              className="grid grid-cols-[112px_minmax(0,1fr)] gap-3 border-b border-hair-soft px-3 py-1 text-[13px] last:border-b-0"
            >
              <b className={`font-[620] ${LOOKS[line.outcome]}`}>{SIGNS[line.outcome]}</b>
              <span>
                {line.outcome === "unusable" ? (
                  <Fix written={line.written} onFix={onFix} />
                ) : (
                  <>
                    <Address>{line.address}</Address>
                    {line.who !== "" && <span className="text-ink-2"> {line.who}</span>}
                  </>
                )}
                {line.outcome === "repaired" && (
                  <span className="mono text-ink-3"> ← {line.written}</span>
                )}
                {line.sentence !== "" && <span className="block text-ink-2">{line.sentence}</span>}
              </span>
            </li>
          ))}
      </ul>
    </section>
  );
}

function Fix({
  written,
  onFix,
}: {
  written: string;
  onFix: (written: string, right: string) => void;
}) {
  const [right, setRight] = useState(written);
  return (
    <span className="flex gap-2">
      <input
        aria-label={t("ui.putRight", { written })}
        value={right}
        onChange={(event) => setRight(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter") {
            event.preventDefault();
            onFix(written, right);
          }
        }}
        className="mono h-[26px] min-w-0 flex-1 rounded border border-marigold-line bg-panel px-2"
      />
      <Button
        className="min-h-[26px]! px-2! text-[13px]"
        disabled={right === written}
        onClick={() => onFix(written, right)}
      >
        {t("ui.putRight2")}
      </Button>
    </span>
  );
}
