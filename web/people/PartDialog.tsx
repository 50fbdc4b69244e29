import { useState, type FormEvent } from "react";
import type { PersonPage } from "@amigo/contract/people";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { usePartMutation } from "../data/people";
import { t } from "../texts/people";

/** Says that one is really two of the same name: which children and addresses are the other's. */
export function PartDialog({
  page,
  onClose,
  onParted,
}: {
  page: PersonPage;
  onClose: () => void;
  onParted: (other: string) => void;
}) {
  const [students, setStudents] = useState<ReadonlySet<string>>(new Set());
  const [addresses, setAddresses] = useState<ReadonlySet<string>>(new Set());
  const [part, parting] = usePartMutation();
  const flip = (set: ReadonlySet<string>, value: string): ReadonlySet<string> =>
    new Set(set.has(value) ? [...set].filter((candidate) => candidate !== value) : [...set, value]);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await part({
      id: page.person.id,
      students: [...students],
      addresses: [...addresses],
    });
    if (answer.data !== undefined) onParted(answer.data.person);
  };
  const box = (label: string, on: boolean, onChange: () => void) => (
    <label key={label} className="flex items-center gap-2 border-t border-hair-soft py-1.5">
      <input type="checkbox" checked={on} onChange={onChange} />
      <span className={label.includes("@") ? "mono wrap-anywhere" : ""}>{label}</span>
    </label>
  );
  return (
    <Modal title={t("people.isTwoPeople", { name: page.person.name })} onClose={onClose}>
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-2 text-ink-2">{t("people.chooseWhatBelongsToThe")}</p>
        {page.ties.map(({ id, name }) =>
          box(name, students.has(id), () => setStudents(flip(students, id))),
        )}
        {page.person.addresses.map(({ address }) =>
          box(address, addresses.has(address), () => setAddresses(flip(addresses, address))),
        )}
        <div className="mt-2">
          <FaultLine error={parting.error} />
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={onClose}>{t("people.close")}</Button>
          <Button
            type="submit"
            look="go"
            disabled={parting.isLoading || students.size + addresses.size === 0}
          >
            {t("people.splitIntoTwoPeople")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
