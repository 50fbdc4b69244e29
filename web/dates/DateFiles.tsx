import type { DateFile } from "@amigo/contract/dates";
import { useAddDateFileMutation } from "../data/dates";
import { t } from "../texts/dates";
import { FilesField } from "../ui/FilesField";
import { FaultLine } from "../ui/Page";

/** Returns where a file of a date is opened. */
export function datePath(file: string): string {
  return `/api/dates/files/${file}`;
}

/** The files that go with a date: they are kept as soon as they are added, and belong to it once it is saved. */
export function DateFiles({
  files,
  onChange,
  onBusy,
}: {
  files: readonly DateFile[];
  onChange: (change: (before: DateFile[]) => DateFile[]) => void;
  /** Hears whether files are still on their way: the date isn't saved without them. */
  onBusy: (isBusy: boolean) => void;
}) {
  const [add, { isLoading, error }] = useAddDateFileMutation();
  const addAll = async (added: readonly File[]): Promise<void> => {
    onBusy(true);
    for (const file of added) {
      const { data } = await add(file);
      if (data !== undefined) onChange((before) => [...before, data]);
    }
    onBusy(false);
  };
  return (
    <div>
      <p className="mb-1 text-[13px] font-[560]">{t("dates.files")}</p>
      <FilesField
        files={files}
        pathOf={datePath}
        hint={t("dates.filesHint")}
        isAdding={isLoading}
        onAdd={(added) => void addAll(added)}
        onDrop={(file) => onChange((before) => before.filter(({ id }) => id !== file))}
      />
      <FaultLine error={error} />
    </div>
  );
}
