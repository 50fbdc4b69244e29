import { useState, type FormEvent } from "react";
import type { PersonLine } from "@amigo/contract/people";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useSettleAddressesMutation } from "../data/people";
import { t } from "../texts/people";

/** Says by hand at which addresses somebody is reached, whatever the sheets say. */
export function AddressesDialog({ person, onClose }: { person: PersonLine; onClose: () => void }) {
  const [text, setText] = useState(person.addresses.map(({ address }) => address).join("\n"));
  const [settle, settling] = useSettleAddressesMutation();
  const addresses = text.split(/[\s,;]+/).filter((address) => address !== "");
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await settle({ id: person.id, addresses });
    if (answer.error === undefined) onClose();
  };
  return (
    <Modal title={t("people.addressesOf", { name: person.name })} onClose={onClose}>
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-2 text-ink-2">{t("people.theseAddressesReplaceWhatSheets")}</p>
        <textarea
          autoFocus
          aria-label={t("people.addressesOneALine")}
          rows={4}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="mono w-full rounded-md border border-hair bg-panel p-2"
        />
        <div className="mt-2">
          <FaultLine error={settling.error} />
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={onClose}>{t("people.close")}</Button>
          <Button type="submit" look="go" disabled={settling.isLoading}>
            {addresses.length === 0
              ? t("people.useNoAddress")
              : addresses.length === 1
                ? t("people.useThisAddress")
                : t("people.useTheseAddresses", { addresses: addresses.length })}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
