import { useState, type Dispatch, type SetStateAction } from "react";
import type { Target } from "@amigo/contract/drafts";
import { usePersonHitsQuery } from "../data/private";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Empty } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { t } from "../texts/mail";

/** Finds people by names, numbers or addresses, also several that are pasted at once, and ticks those who get the mail. */
export function FindPeople({
  onClose,
  onTake,
}: {
  onClose: () => void;
  onTake: (targets: Target[]) => void;
}) {
  const [text, setText] = useState("");
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const { currentData: hits = [], isFetching } = usePersonHitsQuery(text.trim(), {
    skip: text.trim() === "",
  });
  const chosen = hits.filter(({ id }) => !off.has(id));
  return (
    <Modal wide title={t("mail.findPeople")} onClose={onClose}>
      <label className="mb-1 block text-[13px] font-[560]" htmlFor="find-people">
        {t("mail.namesStudentNumbersOrAddresses")}
      </label>
      <textarea
        id="find-people"
        autoFocus
        rows={3}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setOff(new Set());
        }}
        className="block w-full rounded-md border border-hair bg-panel px-2.5 py-1.5"
      />
      <p role="status" className="mt-2 text-[13px] text-ink-2">
        {text.trim() === ""
          ? t("mail.youFindEverybodyOnThe")
          : isFetching
            ? t("mail.looking")
            : t("mail.peopleFoundForAChild", { hits: hits.length })}
      </p>
      {hits.length > 0 && (
        <ul className="mt-1.5 max-h-72 overflow-auto rounded-md border border-hair">
          {hits.map((hit) => (
            <li key={hit.id} className="border-b border-hair-soft last:border-b-0">
              <PersonHit off={off} hit={hit} setOff={setOff} />
            </li>
          ))}
        </ul>
      )}
      {text.trim() !== "" && !isFetching && hits.length === 0 && (
        <Empty title={t("mail.nobodyFound")}>
          <p>{t("mail.tryAnotherPartOfThe")}</p>
        </Empty>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={onClose}>{t("mail.close")}</Button>
        <Button
          look="go"
          disabled={chosen.length === 0}
          onClick={() =>
            onTake(
              chosen.map(({ id, name, child }) => ({
                kind: "person",
                id,
                name,
                ...(child ? { whom: "guardians" as const } : {}),
              })),
            )
          }
        >
          {t("mail.addPeople", { chosen: chosen.length })}
        </Button>
      </div>
    </Modal>
  );
}

function PersonHit({
  off,
  hit,
  setOff,
}: {
  off: ReadonlySet<string>;
  hit: {
    id: string;
    name: string;
    detail: string;
    reached: boolean;
    child: boolean;
    addresses: string[];
  };
  setOff: Dispatch<SetStateAction<ReadonlySet<string>>>;
}) {
  return (
    <label className="flex items-baseline gap-2.5 px-3 py-1">
      <input
        type="checkbox"

        checked={!off.has(hit.id)}
        onChange={(event) => {
          const next = new Set(off);
          if (event.target.checked) next.delete(hit.id);
          else next.add(hit.id);
          setOff(next);
        }}
      />
      <b className="font-[620]">{hit.name}</b>
      <span className="min-w-0 flex-1 truncate text-[13px] text-ink-2">{hit.detail}</span>
      {!hit.reached && (
        <span className="text-[13px]">
          <Warn>{t("mail.noAddress")}</Warn>
        </span>
      )}
    </label>
  );
}
