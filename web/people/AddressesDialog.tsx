import { useState, type FormEvent } from "react";
import type { PersonLine } from "@amigo/contract/people";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useSettleAddressesMutation } from "../data/people";

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
    <Modal title={`Addresses of ${person.name}`} onClose={onClose}>
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-2 text-ink-2">
          These addresses replace what sheets and forms say, until you undo this. Lists follow in
          the next round.
        </p>
        <textarea
          autoFocus
          aria-label="Addresses, one a line"
          rows={4}
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="mono w-full rounded-md border border-hair bg-panel p-2"
        />
        <div className="mt-2">
          <FaultLine error={settling.error} />
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" look="go" disabled={settling.isLoading}>
            {addresses.length === 0
              ? "Use no address"
              : addresses.length === 1
                ? "Use this address"
                : `Use these ${addresses.length} addresses`}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
