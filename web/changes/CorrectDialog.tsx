import { useState, type FormEvent } from "react";
import type { CausePage } from "@amigo/contract/causes";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { useCorrectMutation } from "../data/sources";
import { t } from "../texts/changes";

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
        ? t("changes.correctionSavedTheChangesWere")
        : t("changes.correctionsSavedTheChangesWere", { changed: changed.length }),
    );
  };
  return (
    <Modal wide title={t("changes.theSheetIsWrong2")} onClose={onClose}>
      <form onSubmit={(event) => void submit(event)}>
        <p className="mb-3 text-ink-2">
          {t("changes.rowOfWhatYouChange", { sentence, row: row.row, source: row.source })}
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
          <Button onClick={onClose}>{t("changes.close")}</Button>
          <Button type="submit" look="go" disabled={changed.length === 0 || correcting.isLoading}>
            {correcting.isLoading
              ? t("changes.saving")
              : changed.length === 0
                ? t("changes.nothingChangedYet")
                : t("changes.saveCorrection")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
