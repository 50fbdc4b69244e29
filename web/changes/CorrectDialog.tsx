import { useState, type FormEvent } from "react";
import type { CausePage } from "@amigo/contract/rounds";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useCorrectMutation } from "../data/sources";

/** "The sheet is wrong": the row behind a cause, to be read otherwise until the sheet itself changes there. */
export function CorrectDialog({
  sentence,
  row,
  onClose,
  onDone,
}: {
  sentence: string;
  row: CausePage["evidence"][number];
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const cells = row.cells.filter(({ column }) => column >= 0);
  const [texts, setTexts] = useState<Record<number, string>>({});
  const [correct, correcting] = useCorrectMutation();
  const changed = cells.filter(
    ({ column, text }) => texts[column] !== undefined && texts[column]?.trim() !== text,
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    for (const { column } of changed) {
      const answer = await correct({
        reading: row.reading,
        sheet: row.sheet,
        row: row.row,
        column,
        read: texts[column] ?? "",
      });
      if (answer.data === undefined) return;
    }
    onDone(
      changed.length === 1
        ? "Correction saved. The changes were worked out again."
        : `${changed.length} corrections saved. The changes were worked out again.`,
    );
  };
  return (
    <Modal wide title="The sheet is wrong" onClose={onClose}>
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-3 text-ink-2">
          {sentence}: row {row.row} of {row.source}. What you change here is read instead, until the
          sheet itself changes there.
        </p>
        <div className="grid sm:grid-cols-2 gap-x-4 gap-y-2.5">
          {cells.map(({ label, column, text }, at) => (
            <Field
              key={column}
              autoFocus={at === 0}
              label={label}
              value={texts[column] ?? text}
              onChange={(event) => setTexts({ ...texts, [column]: event.target.value })}
              className={
                texts[column] !== undefined && texts[column] !== text
                  ? "[&_input]:border-petrol [&_input]:bg-petrol-soft"
                  : ""
              }
            />
          ))}
        </div>
        <div className="mt-3">
          <FaultLine error={correcting.error} />
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" look="go" disabled={changed.length === 0 || correcting.isLoading}>
            {correcting.isLoading
              ? "Saving …"
              : changed.length === 0
                ? "Nothing changed yet"
                : "Save correction"}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
