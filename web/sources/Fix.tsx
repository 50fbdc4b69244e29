import {
  useRef,
  useState,
  type FormEvent,
  type Dispatch,
  type SetStateAction,
  type RefObject,
} from "react";
import { Button } from "../ui/Button";
import { useKeys } from "../ui/Keys";
import { FaultLine } from "../ui/Page";
import { useCorrectMutation, useCorrectionsQuery, useEndCorrectionMutation } from "../data/sources";
import { t } from "../texts/sources";
import type { ShownFault } from "./shownFault";
import type { CorrectionLine } from "@amigo/contract/corrections";

/** Puts a faulty cell right in place: as proposed, with another text, or with nothing. It holds until the sheet itself changes there. */
export function Fix({
  reading,
  fault,
  isAddress,
  onDone,
}: {
  reading: string;
  fault: ShownFault;
  isAddress: boolean;
  onDone: () => void;
}) {
  const { data: corrections = [] } = useCorrectionsQuery(undefined, {
    skip: fault.correction == null,
  });
  const made = corrections.find(({ id }) => id === fault.correction);
  const [correct, correcting] = useCorrectMutation();
  const [end, ending] = useEndCorrectionMutation();
  const [way, setWay] = useState<"proposal" | "other" | "none">(
    fault.proposal == null ? "other" : "proposal",
  );
  const [other, setOther] = useState("");
  const read = way === "proposal" ? (fault.proposal ?? "") : way === "other" ? other.trim() : "";
  const field = useRef<HTMLInputElement>(null);
  const form = useRef<HTMLFormElement>(null);
  useKeys({
    Enter: () => {
      if (way === "other" && read === "") field.current?.focus();
      else form.current?.requestSubmit();
    },
  });
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await correct({
      reading,
      sheet: fault.sheet,
      row: fault.row,
      column: fault.column,
      read,
    });
    if (answer.data !== undefined) onDone();
  };
  if (made !== undefined) return <MadeCorrection made={made} ending={ending} end={end} />;
  const choice = (id: typeof way, label: React.ReactNode, small: string) => (
    <WayToRead way={way} id={id} setWay={setWay} field={field} label={label} small={small} />
  );
  return (
    <form
      ref={form}
      className="mt-2.5 flex flex-col gap-1.5"
      onSubmit={(event) => void submit(event)}
    >
      {fault.proposal != null &&
        choice(
          "proposal",
          fault.proposal,
          fault.answer === "clean" ? t("sources.readThisWayAlready") : t("sources.probablyMeant2"),
        )}
      {choice("other", isAddress ? t("sources.anotherAddress") : t("sources.anotherText"), "")}
      {way === "other" && (
        <input
          ref={field}
          onKeyDown={(event) => {
            if (event.key === "Escape") event.currentTarget.blur();
          }}
          aria-label={isAddress ? t("sources.anotherAddress2") : t("sources.whatShouldStandHere")}
          value={other}
          onChange={(event) => setOther(event.target.value)}
          className={`h-[32px] rounded-md border border-hair bg-panel px-2.5 ${isAddress ? "mono" : ""}`}
        />
      )}
      {isAddress && choice("none", t("sources.noAddressFromThisCell"), t("sources.noMailGoesToIt"))}
      <FaultLine error={correcting.error} />
      <Button
        type="submit"
        look="go"
        disabled={correcting.isLoading || (way === "other" && read === "")}
      >
        {correcting.isLoading ? t("sources.saving") : t("sources.saveCorrection")} <kbd>↵</kbd>
      </Button>
      <p className="text-[12px] text-ink-3">{t("sources.itHoldsUntilTheSheet")}</p>
    </form>
  );
}

function MadeCorrection({
  made,
  ending,
  end,
}: {
  made: CorrectionLine;
  ending: ReturnType<typeof useEndCorrectionMutation>[1];
  end: ReturnType<typeof useEndCorrectionMutation>[0];
}) {
  return (
    <div className="mt-2.5 flex flex-col gap-2">
      <div className="rounded-md border border-leaf bg-leaf-soft px-2.5 py-2">
        <b className="block font-[620] wrap-anywhere">
          {made.read === "" ? t("sources.noAddressIsReadHere") : made.read}
        </b>
        <small className="text-[12px] text-ink-2">
          {t("sources.correctedByItHoldsUntil", { by: made.by })}
        </small>
      </div>
      <FaultLine error={ending.error} />
      <Button disabled={ending.isLoading} onClick={() => void end(made.id)}>
        {t("sources.undoCorrection")}
      </Button>
    </div>
  );
}

function WayToRead({
  way,
  id,
  setWay,
  field,
  label,
  small,
}: {
  way: "other" | "none" | "proposal";
  id: typeof way;
  setWay: Dispatch<SetStateAction<"other" | "none" | "proposal">>;
  field: RefObject<HTMLInputElement | null>;
  label: React.ReactNode;
  small: string;
}) {
  return (
    <label
      className={`flex cursor-pointer gap-2 rounded-md border px-2.5 py-2 has-focus-visible:outline-2 has-focus-visible:outline-petrol ${way === id ? "border-petrol bg-petrol-soft" : "border-hair hover:border-petrol"}`}
    >
      <input
        type="radio"
        name="fix"
        className="mt-1"
        checked={way === id}
        onChange={() => {
          setWay(id);
          if (id === "other") setTimeout(() => field.current?.focus());
        }}
      />
      <span className="min-w-0 flex-1">
        <b className="block font-[620] wrap-anywhere">{label}</b>
        <small className="text-[12px] text-ink-2">{small}</small>
      </span>
    </label>
  );
}
