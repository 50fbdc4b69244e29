import { useState } from "react";
import type { House } from "@amigo/contract/house";
import { useNextSeasonQuery } from "../data/edits";
import { Terms } from "./Terms";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { t } from "../texts/house";
import { SeasonPlan } from "./SeasonPlan";

/** The seasons of the house, and how the next one begins. */
export function Seasons({ house }: { house: House }) {
  const [opening, setOpening] = useState(false);
  const [said, setSaid] = useState("");
  return (
    <div className="flex flex-col gap-3.5">
      {said !== "" && (
        <p role="status" className="rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <Panel className="max-w-2xl px-4 py-3.5">
        <h2>{t("house.seasons")}</h2>
        <ul className="mt-1">
          {house.seasons.map(({ label, current, lists }) => (
            <li key={label} className="flex gap-3 border-t border-hair-soft py-1.5">
              <b className="flex-1 font-[560]">{label.replace("-", "–")}</b>
              <span>{current ? t("house.current") : t("house.overItsListsCanBe")}</span>
              <span className="w-16 text-right text-ink-3">{t("house.lists3", { lists })}</span>
            </li>
          ))}
        </ul>
        {!opening && (
          <Button look="go" className="mt-3" onClick={() => setOpening(true)}>
            {t("house.openTheNextSeason")}
          </Button>
        )}
      </Panel>
      {!opening && <Terms />}
      {opening && (
        <NextSeason
          onClose={() => setOpening(false)}
          onDone={(sentence) => {
            setOpening(false);
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

function NextSeason({
  onClose,
  onDone,
}: {
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const { data, error } = useNextSeasonQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  return data === undefined ? (
    <Loading what={t("house.thisSeason")} />
  ) : (
    <SeasonPlan key={data.current} {...data} onClose={onClose} onDone={onDone} />
  );
}
