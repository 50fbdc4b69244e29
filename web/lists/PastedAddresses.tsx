import type { Dispatch, SetStateAction } from "react";
import { Rich, t } from "../texts/lists";
import { Warn } from "../ui/Signs";

export function PastedAddresses({
  pasted,
  setPasted,
  pieces,
  good,
  repaired,
  bad,
}: {
  pasted: string;
  setPasted: Dispatch<SetStateAction<string>>;
  pieces: string[];
  good: string[];
  repaired: { written: string; address: string }[];
  bad: string[];
}) {
  return (
    <div>
      <label htmlFor="addresses" className="mb-1 block text-[13px] font-[560]">
        {t("lists.addressesToPutOnIt")}
      </label>
      <textarea
        id="addresses"
        rows={3}
        value={pasted}
        onChange={(event) => setPasted(event.target.value)}
        className="mono block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
      {pasted.trim() !== "" && (
        <p role="status" className="mt-1 text-[13px]">
          <Rich
            id="lists.addressesInToPutOn"
            pieces={pieces.length}
            good={good.length}
            meant={
              repaired.length > 0 && (
                <span className="block">
                  {t("lists.readAsProbablyMeant", {
                    list: repaired
                      .slice(0, 6)
                      .map(({ written, address }) => t("lists.written", { address, written }))
                      .join(" · "),
                    isMore: String(repaired.length > 6),
                  })}
                </span>
              )
            }
            unusable={
              bad.length > 0 && (
                <span className="block">
                  <Warn>
                    {t("lists.notUsableAsTheyStand", {
                      list: bad.slice(0, 6).join(" · "),
                      isMore: String(bad.length > 6),
                    })}
                  </Warn>
                </span>
              )
            }
          />
        </p>
      )}
    </div>
  );
}
