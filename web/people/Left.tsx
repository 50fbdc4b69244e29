import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { useMe } from "../data/me";
import { useForgetMutation, useLeftQuery } from "../data/people";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { moment } from "../ui/time";
import { Rich, t } from "../texts/people";
import type { Me } from "@amigo/contract/accounts";

/** People who are in no sheet any more: what is kept of them can be handed out, and removed for good. */
export function Left() {
  const me = useMe();
  const [q, setQ] = useState("");
  const { data: people, error } = useLeftQuery(q);
  const [forgetting, setForgetting] = useState<{ id: string; name: string }>();
  const [said, setSaid] = useState("");
  return (
    <>
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <div className="mb-3 flex items-center gap-3">
        <SearchField
          label={t("people.findAFormerMember")}
          placeholder={t("people.partOfAName")}
          value={q}
          onChange={setQ}
          className="w-72 max-w-full"
        />
        <span className="text-[13px] text-ink-2">{t("people.theirDataIsKeptSo")}</span>
      </div>
      <FaultLine error={error} />
      {people === undefined ? (
        error === undefined && <Loading what={t("people.thoseWhoLeft")} />
      ) : people.length === 0 ? (
        <Panel>
          <Empty
            title={
              q === ""
                ? t("people.nobodyHasLeftThisSeason")
                : t("people.noFormerMemberIsCalled", { q })
            }
          >
            <p>{t("people.peopleWhoAreNoLonger")}</p>
          </Empty>
        </Panel>
      ) : (
        <Panel scrolls={t("people.peopleWhoLeft")} className="min-h-0">
          <ul>
            {people.map(({ id, name, role, left }) => (
              <FormerMember
                key={id}
                id={id}
                name={name}
                role={role}
                left={left}
                me={me}
                setForgetting={setForgetting}
              />
            ))}
          </ul>
        </Panel>
      )}
      {forgetting !== undefined && (
        <Forget
          {...forgetting}
          onClose={() => setForgetting(undefined)}
          onDone={() => {
            setForgetting(undefined);
            setSaid(t("people.removedTheCountsOfPast"));
          }}
        />
      )}
    </>
  );
}

function Forget({
  id,
  name,
  onClose,
  onDone,
}: {
  id: string;
  name: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const [typed, setTyped] = useState("");
  const [forget, { error, isLoading }] = useForgetMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await forget({ id, name: typed });
    if (answer.error === undefined) onDone();
  };
  return (
    <Modal title={t("people.removeTheDataOf", { name })} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p>
          <Rich id="people.nameAddressesAndNumberAre" b={(chunks) => <b>{chunks}</b>} />
        </p>
        <Field
          label={t("people.typeToRemoveIt", { name })}
          autoFocus
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        <FaultLine error={error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("people.close")}</Button>
          <Button look="go" type="submit" disabled={typed.trim() === "" || isLoading}>
            {t("people.removeItForGood")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function FormerMember({
  id,
  name,
  role,
  left,
  me,
  setForgetting,
}: {
  id: string;
  name: string;
  role: string;
  left: string;
  me: Me;
  setForgetting: Dispatch<SetStateAction<{ id: string; name: string } | undefined>>;
}) {
  return (
    <li className="flex items-center gap-3 border-b border-hair-soft px-4 py-2 last:border-b-0">
      <b className="w-64 font-[620]">{name}</b>
      <span className="flex-1 text-ink-2">
        {t("people.left", { role, when: moment(left, me.timeZone) })}
      </span>
      <a
        className="text-petrol underline underline-offset-2"
        href={`/api/people/${encodeURIComponent(id)}/record`}
        download
      >
        <Rich
          id="people.downloadThisPersonsDataOf"
          name={name}
          span={(chunks) => <span className="sr-only">{chunks}</span>}
        />
      </a>
      <Button onClick={() => setForgetting({ id, name })}>
        <Rich id="people.remove" name={<span className="sr-only"> {name}</span>} />
      </Button>
    </li>
  );
}
