import { fold } from "@amigo/core/text/fold";
import { useState } from "react";
import type { PersonLine } from "@amigo/contract/people";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useJoinMutation, usePeopleQuery } from "../data/people";
import { Rich, t } from "../texts/people";

const MOST = 8;

/** Says that two are one person: the other one is found by name, number or address. */
export function JoinDialog({ person, onClose }: { person: PersonLine; onClose: () => void }) {
  const [q, setQ] = useState(person.name);
  const { data } = usePeopleQuery({ q, only: "", from: 0 }, { skip: q.trim().length < 2 });
  const [join, joining] = useJoinMutation();
  const wanted = fold(q).split(" ")[0] ?? "";
  const others = (data?.families ?? [])
    .flatMap(({ people }) => people)
    .filter((other) => other.id !== person.id && other.role === person.role)
    .sort((a, b) => Number(fold(b.name).includes(wanted)) - Number(fold(a.name).includes(wanted)))
    .slice(0, MOST);
  const put = async (other: string): Promise<void> => {
    const answer = await join({ id: person.id, other });
    if (answer.error === undefined) onClose();
  };
  return (
    <Modal title={t("people.whoIsTheSamePerson", { name: person.name })} onClose={onClose}>
      <p className="mb-2 text-ink-2">{t("people.theirDataIsMergedNow")}</p>
      <Field
        autoFocus
        label={t("people.another", { role: person.role })}
        value={q}
        onChange={(event) => setQ(event.target.value)}
      />
      <div className="mt-2">
        <FaultLine error={joining.error} />
      </div>
      <ul className="mt-2">
        {others.map((other) => (
          <li key={other.id} className="flex items-center gap-3 border-t border-hair-soft py-1.5">
            <span className="min-w-0 flex-1">
              <b className="font-[620]">{other.name}</b>{" "}
              <span className="text-[13px] text-ink-3">
                {other.number} {other.detail}
              </span>
              <span className="mono block wrap-anywhere text-[13px] text-ink-2">
                {other.addresses.map(({ address }) => address).join(", ") || t("people.noAddress")}
              </span>
            </span>
            <Button disabled={joining.isLoading} onClick={() => void put(other.id)}>
              <Rich
                id="people.onePersonWith"
                name={other.name}
                span={(chunks) => <span className="sr-only">{chunks}</span>}
              />
            </Button>
          </li>
        ))}
      </ul>
      {data !== undefined && others.length === 0 && (
        <p className="mt-2 text-ink-3">{t("people.noOtherHereHasThat", { role: person.role })}</p>
      )}
      <div className="mt-3 flex justify-end">
        <Button onClick={onClose}>{t("people.close")}</Button>
      </div>
    </Modal>
  );
}
