import { useState, type FormEvent } from "react";
import type { ListPage } from "@amigo/contract/lists";
import { useOwnShortMutation } from "../data/lists";
import { Button } from "../ui/Button";
import { sentenceOf } from "../data/api";
import { Rich, t } from "../texts/list";

/** A short name by which somebody finds a list when they type, for themselves alone. */
export function OwnShort({ list }: { list: ListPage }) {
  const [open, setOpen] = useState(false);
  const [short, setShort] = useState(list.ownShort);
  const [keep, { error, isLoading }] = useOwnShortMutation();
  if (!open)
    return (
      <button
        type="button"
        className="text-petrol underline underline-offset-2"
        onClick={() => {
          setShort(list.ownShort);
          setOpen(true);
        }}
      >
        {list.ownShort === "" ? (
          t("list.aShortNameOfMy")
        ) : (
          <>
            <Rich id="list.myShortName" ownShort={<b className="font-[620]">{list.ownShort}</b>} />
          </>
        )}
      </button>
    );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if ((await keep({ id: list.id, short: short.trim().toLowerCase() })).data !== undefined)
      setOpen(false);
  };
  return (
    <form
      className="flex items-center gap-1.5"
      onSubmit={(event) => void submit(event)}
      onKeyDown={(event) => {
        if (event.key === "Escape") setOpen(false);
      }}
    >
      <input
        autoFocus
        aria-label={t("list.shortNameOfMyOwn")}
        placeholder="3a"
        value={short}
        onChange={(event) => setShort(event.target.value)}
        maxLength={30}
        className="mono h-[26px] w-28 rounded border border-hair bg-panel px-2"
      />
      <Button type="submit" className="min-h-[26px]! px-2! text-[13px]" disabled={isLoading}>
        {t("list.save")}
      </Button>
      {error !== undefined && (
        <span role="alert" className="text-brick">
          {sentenceOf(error)}
        </span>
      )}
    </form>
  );
}
