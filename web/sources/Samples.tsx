import { useSamplesQuery } from "../data/sources";
import { useState } from "react";
import { t } from "../texts/sources";

/** The sample sheets of the demo house, to be read by one click. */
export function Samples({ onTake }: { onTake: (file: File) => void }) {
  const { data: samples = [] } = useSamplesQuery();
  const [fault, setFault] = useState<string>();
  if (samples.length === 0) return null;
  const open = async (name: string): Promise<void> => {
    const answer = await fetch(`/api/samples/${encodeURIComponent(name)}`).catch(() => undefined);
    if (answer?.ok !== true) {
      setFault(t("sources.theSampleCouldNotBe"));
      return;
    }
    onTake(new File([await answer.blob()], name));
  };
  return (
    <div className="text-left">
      <p className="mb-1.5 text-[13px] text-ink-3">{t("sources.sampleSheetsOfThisDemo")}</p>
      {samples.map(({ name, what }) => (
        <button
          key={name}
          type="button"
          onClick={() => void open(name)}
          className="mb-1.5 block w-full rounded-md border border-hair bg-panel px-3 py-1.5 text-left hover:border-petrol hover:bg-petrol-soft"
        >
          <b className="mono font-[560]">{name}</b>
          <span className="block text-[13px] text-ink-2">{what}</span>
        </button>
      ))}
      {fault !== undefined && (
        <p role="alert" className="text-brick">
          {fault}
        </p>
      )}
    </div>
  );
}
