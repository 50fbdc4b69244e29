import { useId } from "react";
import { usePersonHitsQuery } from "../data/private";
import { t } from "../texts/ui";

/** A field for any address. While a name is typed, whom the asker knows is offered with their addresses. */
export function AddressToTry({
  value,
  onChange,
  className,
  autoFocus = false,
}: {
  value: string;
  onChange: (value: string) => void;
  className: string;
  autoFocus?: boolean;
}) {
  const id = useId();
  const typed = value.trim();
  const { currentData: hits = [] } = usePersonHitsQuery(typed, {
    skip: typed.length < 2 || typed.includes("@"),
  });
  return (
    <>
      <input
        aria-label={t("ui.addressToTry")}
        list={id}
        autoFocus={autoFocus}
        autoComplete="off"
        placeholder={t("ui.aNameOrAnyAddress")}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className={`mono h-[30px] rounded-md border border-hair bg-panel px-2.5 ${className}`}
      />
      <datalist id={id}>
        {hits.flatMap(({ id: person, name, detail, addresses }) =>
          addresses.map((address) => (
            <option key={`${person} ${address}`} value={address}>{`${name}, ${detail}`}</option>
          )),
        )}
      </datalist>
    </>
  );
}
